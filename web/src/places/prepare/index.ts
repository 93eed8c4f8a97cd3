export { PreparationPlace } from './PreparationPlace'
export { PreparePlace } from './PreparePlace'
