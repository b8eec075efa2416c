import { Suspense, lazy, useState, type ComponentType } from 'react';
import { View } from 'react-native';
import { Coming } from './coming';
import { Guard } from './guard';

/**
 * A component that is loaded when it is first drawn; until then nothing stands, or the room of a field, or the shape of a page. Where
 * it cannot be loaded (no network, or another version is served by now), it says so and can be tried again;
 * an aid, which only makes something handier (a gesture), is left away then.
 * @param load gives the component
 */
export function lazyComponent<P extends object>(
  load: () => Promise<ComponentType<P>>,
  as: 'page' | 'part' | 'aid' | 'field' = 'part',
): ComponentType<P> {
  // lazy() asks for a component of any kind; what it is given here is one. It keeps a failure for good, so
  // each try is another.
  const attempt = () =>
    lazy(async () => ({ default: (await load()) as ComponentType<object> })) as unknown as ComponentType<P>;
  let latest = attempt();
  return function Lazy(props: P) {
    const [Loaded, setLoaded] = useState(() => latest);
    const again = () => {
      latest = attempt();
      setLoaded(() => latest);
    };
    return (
      <Guard onFailure={again} as={as === 'field' ? 'part' : as}>
        <Suspense
          fallback={as === 'page' ? <Coming /> : as === 'field' ? <View className="h-[68px]" /> : null}
        >
          <Loaded {...props} />
        </Suspense>
      </Guard>
    );
  };
}
