export { BoardPlace } from './BoardPlace'
