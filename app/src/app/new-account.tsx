import { lazyComponent } from '@/ui/lazy';

export default lazyComponent(() => import('@/lazy-forms').then((m) => m.NewAccountPlace), 'page');
