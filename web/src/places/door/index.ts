export { DoorPlace } from './DoorPlace'
