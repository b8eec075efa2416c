import { Redirect } from '@/router';

/** The address that news had: links in mails lead there. */
export default function Notices() {
  return <Redirect href="/news" />;
}
