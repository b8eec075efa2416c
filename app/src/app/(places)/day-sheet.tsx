import { later } from '@/ui/later';

export default later(() => import('@/later').then((m) => m.DaySheetPlace), 'page');
