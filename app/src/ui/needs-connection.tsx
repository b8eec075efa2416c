import { useOnline } from './online';
import { Notice } from './notice';

/** Says, before anything is typed, that a form cannot be sent just now. */
export function NeedsConnection() {
  return useOnline() ? null : (
    <Notice kind="warning" title="This needs a connection.">
      There is none just now. Come back to it once there is one.
    </Notice>
  );
}
