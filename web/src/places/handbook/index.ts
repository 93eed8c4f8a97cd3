export { HandbookPlace } from './HandbookPlace'
