export { CalendarPlace } from './calendar/CalendarPlace'
export { PreparationPlace } from './PreparationPlace'
export { PreparePlace } from './PreparePlace'
export { StockPlace } from './StockPlace'
