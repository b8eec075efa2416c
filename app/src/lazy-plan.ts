// What is planned: the place, and a sitting's sheet.
export { PlanPlace } from '@/features/plan/plan-place';
export { RunUpPart } from '@/features/plan/run-up-part';
export { SittingSheet } from '@/features/plan/sitting-sheet';
