import { lazyComponent } from '@/ui/lazy';

export default lazyComponent(() => import('@/lazy-plan').then((m) => m.PlanPlace), 'page');
