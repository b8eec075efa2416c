// What is planned, outside its place: a run-up on its item's sheet, and a sitting's sheet.
export { RunUpPart } from '@/features/plan/run-up-part';
export { SittingSheet } from '@/features/plan/sitting-sheet';
