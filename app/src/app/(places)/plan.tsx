import { lazyComponent } from '@/ui/lazy';

export default lazyComponent(() => import('@/bundles/drag').then((m) => m.PlanPlace), 'page');
