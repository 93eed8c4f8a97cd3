export { ShelfPlace } from './ShelfPlace'
export { ClassesPage } from './classes/ClassesPage'
