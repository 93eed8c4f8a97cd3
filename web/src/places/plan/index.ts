export { BeginPlace } from './begin/BeginPlace'
export { PlanPlace } from './PlanPlace'
