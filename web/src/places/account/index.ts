export { AccountPlace } from './AccountPlace'
