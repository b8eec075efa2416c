// The parts of the router that are used here, and no others: what else it brings is left out of the bundle.
// They take only the addresses that there are, so that a link to nowhere does not compile.
import { Link as RouterLink, Redirect as RouterRedirect, router as anyRouter } from 'expo-router';
import type { ComponentProps, ReactElement } from 'react';
import type { Address } from './places';

export { Slot, useGlobalSearchParams, useLocalSearchParams, usePathname } from 'expo-router';

type To<P> = Omit<P, 'href'> & { href: Address };
type Target = Address | { pathname: Address; params: Record<string, string | undefined> };

export const Link = RouterLink as (props: To<ComponentProps<typeof RouterLink>>) => ReactElement;
export const Redirect = RouterRedirect as (props: To<ComponentProps<typeof RouterRedirect>>) => null;
export const router = anyRouter as Omit<typeof anyRouter, 'push' | 'replace'> & {
  push(to: Target): void;
  replace(to: Target): void;
};
