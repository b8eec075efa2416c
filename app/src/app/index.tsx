import { Redirect } from '@/router';

export default function Index() {
  return <Redirect href="/today" />;
}
