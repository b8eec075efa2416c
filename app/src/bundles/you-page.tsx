import { AccountPart } from '@/features/people/account-part';
import { YouPlace } from '@/features/settings/you-place';

/** Oneself, with whose schedules one sees and the way out below. */
export const YouPage = () => <YouPlace account={<AccountPart />} />;
