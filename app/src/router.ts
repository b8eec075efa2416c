// The parts of the router that are used here, and no others: what else it brings is left out of the bundle.
export {
  Link,
  Redirect,
  Slot,
  router,
  useGlobalSearchParams,
  useLocalSearchParams,
  usePathname,
} from 'expo-router';
