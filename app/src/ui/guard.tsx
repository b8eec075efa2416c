import type { ReactNode } from 'react';
import { ErrorBoundary } from 'react-error-boundary';
import { View } from 'react-native';
import { Button } from './button';
import { Notice } from './notice';
import { Text } from './text';

interface Props {
  children: ReactNode;
  /** Another one (another place, say) lets what is inside begin anew */
  of?: string;
  /** Called at once when something inside has failed: to load it anew, where it could not be loaded */
  onFailure?: () => void;
  /**
   * What is inside: all of a page (then its heading is missing as well), a part of one, or an aid, which can
   * be done without
   */
  as?: 'page' | 'part' | 'aid';
}

/** Keeps what goes wrong inside from taking everything around it along, and offers the ways on. */
export function Guard({ children, of, onFailure, as = 'part' }: Props) {
  return (
    <ErrorBoundary
      resetKeys={[of]}
      {...(onFailure ? { onError: onFailure } : {})}
      fallbackRender={({ resetErrorBoundary }) =>
        as === 'aid' ? null : <Failed isPage={as === 'page'} onAgain={resetErrorBoundary} />
      }
    >
      {children}
    </ErrorBoundary>
  );
}

function Failed({ isPage, onAgain }: { isPage: boolean; onAgain: () => void }) {
  return (
    <View className="gap-3 p-4">
      {isPage ? (
        <Text kind="title" heading={1}>
          Not here yet
        </Text>
      ) : null}
      <Notice
        kind="warning"
        title={navigator.onLine ? 'This part could not be shown.' : 'There is no network just now.'}
      >
        What you have saved is safe.
      </Notice>
      <View className="flex-row flex-wrap gap-2">
        <Button onPress={onAgain}>Try again</Button>
        <Button kind="second" onPress={() => location.reload()}>
          Load the page again
        </Button>
      </View>
    </View>
  );
}
