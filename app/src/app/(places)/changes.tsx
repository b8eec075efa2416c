export { ChangesPlace as default } from '@/features/changes/changes-place';
