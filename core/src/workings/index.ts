export * from './worksheet.ts';
export { worksheets } from './sheets.ts';
