import { Suspense, lazy, type ComponentType } from 'react';
import { View } from 'react-native';

/**
 * A component that is loaded when it is first drawn; until then nothing stands, or the shape of a page.
 * @param load gives the component
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>, page = false): ComponentType<P> {
  // lazy() asks for a component of any kind; what it is given here is one.
  const Loaded = lazy(async () => ({ default: (await load()) as ComponentType<object> })) as unknown as ComponentType<P>;
  return function Later(props: P) {
    return (
      <Suspense fallback={page ? <Coming /> : null}>
        <Loaded {...props} />
      </Suspense>
    );
  };
}

function Coming() {
  return (
    <View role="status" aria-label="Loading the page" className="gap-4 px-4 pt-6">
      <View className="h-8 w-1/3 rounded bg-line" />
      {[0, 1, 2].map((i) => (
        <View key={i} className="h-[72px] rounded-xl bg-sheet" />
      ))}
    </View>
  );
}
