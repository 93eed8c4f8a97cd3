export { ShelfPlace } from './ShelfPlace'
