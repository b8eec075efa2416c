import { useEffect, useState } from 'react';

/**
 * The secret of a link that led here. It stands behind the `#`, so that it is sent to no server and stands in no
 * log; once it is read it is taken out of the address, and cannot be gone back to.
 */
export function useSecret(): string {
  const [secret] = useState(() => globalThis.location.hash.slice(1));
  useEffect(
    () => globalThis.history.replaceState(globalThis.history.state, '', globalThis.location.pathname),
    [],
  );
  return secret;
}
