import { lazyComponent } from '@/ui/lazy';

export default lazyComponent(() => import('@/lazy-drag').then((m) => m.PlanPlace), 'page');
