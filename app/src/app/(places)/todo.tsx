import { lazyComponent } from '@/ui/lazy';

export default lazyComponent(() => import('@/features/todo/todo-place').then((m) => m.TodoPlace), 'page');
