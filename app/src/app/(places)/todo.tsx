import { later } from '@/ui/later';

export default later(() => import('@/features/todo/todo-place').then((m) => m.TodoPlace), 'page');
