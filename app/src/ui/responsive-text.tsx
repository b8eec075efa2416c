import { Text, type Props as TextProps } from './text';

/** Up to this width of the `measured` box the short form stands: class names are found in the source as they are. */
const FORMS = ['within-[54px]:hidden', 'hidden within-[54px]:flex'] as const;

interface Props extends Omit<TextProps, 'children'> {
  long: string;
  short: string;
}

/** The same said long or, where its box is too narrow for that, short. */
export function ResponsiveText({ long, short, className = '', ...text }: Props) {
  const forms = long === short ? [long] : [long, short];
  return forms.map((words, i) => (
    <Text
      key={words}
      {...text}
      numberOfLines={1}
      className={`${className} ${forms.length > 1 ? FORMS[i] : ''}`}
    >
      {words}
    </Text>
  ));
}
