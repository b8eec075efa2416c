import { Suspense, lazy, type ComponentType } from 'react';
import { Coming } from './coming';

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
