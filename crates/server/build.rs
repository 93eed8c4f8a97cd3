//! Builds again when the front end does: its files are embedded.

fn main() {
    println!("cargo:rerun-if-changed=../../web/dist");
    println!("cargo:rerun-if-changed=../../practicals");
}
