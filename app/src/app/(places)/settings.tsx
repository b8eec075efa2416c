import { lazyComponent } from '@/ui/lazy';

export default lazyComponent(() => import('@/bundles/forms').then((m) => m.SettingsPlace), 'page');
