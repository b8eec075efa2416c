// What React Native's parts take on the web and its types do not name: react-native-web hands them to the element.
import 'react-native';

declare module 'react-native' {
  /** Where a link leads, and how it opens. */
  interface LinkProps {
    href?: string;
    hrefAttrs?: { target?: string; rel?: string; download?: string };
  }
  interface WebProps extends LinkProps {
    /** Attributes `data-…`, by their names without `data-` */
    dataSet?: Record<string, string | undefined>;
    /** The direction of foreign text */
    dir?: 'auto' | 'ltr' | 'rtl';
    /** A line shown to a mouse that rests */
    title?: string;
    'aria-current'?: 'page' | 'date' | 'true' | undefined;
    'aria-describedby'?: string | undefined;
    'aria-level'?: number;
    onMouseDown?: (event: Event) => void;
    onKeyDown?: (event: import('react').KeyboardEvent) => void;
  }
  interface ViewProps extends WebProps {}
  interface TextProps extends WebProps {}
}
