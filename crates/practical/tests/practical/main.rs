//! The practical as a file and the statistics beneath it, through their public items.

mod practical_file;
mod statistics;
