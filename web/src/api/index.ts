/** The server's interface: its types, generated from Rust, and one client. */
export { client, Refused, unwrapped } from './client'
export { followBench, followRun } from './follow'
export type * from './named'
export { answerSlot } from './slot'
export { theFile } from './theFile'
export { PACES, useRehearsals } from './useRehearsals'
export { useSession } from './useSession'
