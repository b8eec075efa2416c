export { ReadFiles as default } from '@/features/gather/read-files';
