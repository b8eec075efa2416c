import { useEffect } from 'react';
import { useSettings } from './learner';

/** Has the whole page light or dark as the person likes; without a word, as the device is. */
export function useTheme(): void {
  const { theme } = useSettings();
  useEffect(() => {
    if (theme === 'system') delete document.documentElement.dataset['theme'];
    else document.documentElement.dataset['theme'] = theme;
  }, [theme]);
}
