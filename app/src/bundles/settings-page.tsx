import { AccountPart } from '@/features/people/account-part';
import { SettingsPlace } from '@/features/settings/settings-place';

/** The settings, with what is of the account below them. */
export const SettingsPage = () => <SettingsPlace account={<AccountPart />} />;
