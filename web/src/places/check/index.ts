export { CheckPlace } from './CheckPlace'
