export { CheckPlace } from './CheckPlace'
export { useCheck } from './useCheck'
