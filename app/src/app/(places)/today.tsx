export { TodayPlace as default } from '@/features/today/today-place';
