// What stands for the router where a page is drawn on the server: it is at one place, and nothing leads away
// from it.
import { cloneElement, type ReactElement, type ReactNode } from 'react';
import { Text, type TextProps } from 'react-native';
import { TodayPlace } from '@/features/today/today-place';

interface LinkProps extends TextProps {
  href: string;
  /** The child is the link */
  asChild?: boolean;
  children?: ReactNode;
}

export function Link({ asChild = false, ...props }: LinkProps) {
  if (asChild) return cloneElement(props.children as ReactElement<{ href?: string }>, { href: props.href });
  return <Text role="link" {...props} />;
}

/** No place leads on from here. */
export const Redirect = () => null;
export const Slot = () => <TodayPlace />;
export const usePathname = () => '/today';
export const useGlobalSearchParams = () => ({});
/** Nothing is pressed here. */
export const router = {};
