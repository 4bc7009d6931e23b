export * from './answers';
export { quality, recordRow, toResponse, toRow, type Quality, type RecordRow } from './record';
export { ADDED_COLUMNS, csvCells, missingColumns, readCsvRow, RECORD_COLUMNS, type CsvRow } from './recordCsv';
export { READING_COLUMNS, readingCells, reasonText } from './readingsCsv';
export * from './people';
export * from './adults';
export * from './requests';
export * from './dayPlan';
export * from './corrections';
