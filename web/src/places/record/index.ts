export { GroupRecord } from './GroupRecord'
export { RecordPlace } from './RecordPlace'
export { RunRecord } from './RunRecord'
