export { GatherPlace as default } from '@/features/gather/gather-place';
