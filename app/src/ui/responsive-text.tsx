import { Text, type Props as TextProps } from './text';

/**
 * By the width of the `measured` box up to which the short form stands: class names are found in the source
 * as they are.
 */
const WITHIN = {
  54: ['within-[54px]:hidden', 'hidden within-[54px]:flex'],
  62: ['within-[62px]:hidden', 'hidden within-[62px]:flex'],
  80: ['within-[80px]:hidden', 'hidden within-[80px]:flex'],
  106: ['within-[106px]:hidden', 'hidden within-[106px]:flex'],
  124: ['within-[124px]:hidden', 'hidden within-[124px]:flex'],
} as const;

interface Props extends Omit<TextProps, 'children'> {
  long: string;
  short: string;
  /** Up to which width of the `measured` box around it there is no room for the long form, in pixels */
  upTo: keyof typeof WITHIN;
}

/** The same said long or, where its box is too narrow for that, short. */
export function ResponsiveText({ long, short, upTo, className = '', ...text }: Props) {
  const forms = long === short ? [long] : [long, short];
  return forms.map((words, i) => (
    <Text
      key={words}
      {...text}
      numberOfLines={1}
      className={`${className} ${forms.length > 1 ? WITHIN[upTo][i] : ''}`}
    >
      {words}
    </Text>
  ));
}
