export { TodoPlace as default } from '@/features/todo/todo-place';
