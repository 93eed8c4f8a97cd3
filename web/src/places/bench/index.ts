export { BenchPlace } from './BenchPlace'
export { JoinPlace } from './JoinPlace'
