export * from './answers';
export {
  ROUTES,
  wrongIn,
  type Answer,
  type Places,
  type RouteName,
  type Routes,
  type Sent,
  type Taken,
} from './routes';
export { recordRow, toResponse, toRow, type RecordRow } from './record';
export { responseColumns } from './responseColumns';
export { ADDED_COLUMNS, csvCells, guarded, missingColumns, unguarded, readCsvRow, RECORD_COLUMNS } from './recordCsv';
export { READING_COLUMNS, ownViewCells, readingCells, readingRow } from './readingsCsv';
export { WEEK_COLUMNS, weekCells, weekRow } from './weekCsv';
export * from './people';
export * from './adults';
export * from './requests';
export * from './corrections';
export * from './archive';
export { COPIES_LAST_MS } from './copies';
export * from './arrangements';
export * from './helpers';
export * from './prints';
export * from './statements';
export * from './screens';
export { folded, inOurTime, storable } from './text';
