export { PlanPlace } from './PlanPlace'
