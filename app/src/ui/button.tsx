import type { ComponentType, ReactNode } from 'react';
import { ActivityIndicator, Pressable, View, type PressableProps } from 'react-native';
import { Text } from './text';

export type IconType = ComponentType<{
  size?: number;
  color?: string;
  strokeWidth?: number;
  'aria-hidden'?: boolean;
}>;

const KINDS = {
  primary: { box: 'bg-lagoon hover:opacity-90', text: 'text-lagoon-on', colour: 'var(--lagoon-on)' },
  second: {
    box: 'border border-lagoon bg-sheet hover:bg-lagoon-wash',
    text: 'text-lagoon',
    colour: 'var(--lagoon)',
  },
  quiet: { box: 'hover:bg-lagoon-wash', text: 'text-lagoon underline', colour: 'var(--lagoon)' },
} as const;

export interface ButtonProps extends Omit<PressableProps, 'children'> {
  kind?: keyof typeof KINDS;
  icon?: IconType;
  busy?: boolean;
  className?: string;
  children: ReactNode;
}

export function Button({
  kind = 'primary',
  icon: Icon,
  busy = false,
  disabled,
  className = '',
  children,
  ...props
}: ButtonProps) {
  const look = KINDS[kind];
  return (
    <Pressable
      role="button"
      aria-busy={busy}
      disabled={Boolean(disabled) || busy}
      {...props}
      className={`min-h-touch flex-row items-center justify-center gap-2 rounded-lg px-4 ${look.box} ${disabled ? 'opacity-50' : ''} ${className}`}
    >
      {busy ? (
        <ActivityIndicator size="small" color={look.colour} aria-hidden />
      ) : Icon ? (
        <Icon size={20} color={look.colour} aria-hidden />
      ) : null}
      <View className="flex-shrink">
        <Text kind="strong" className={look.text}>
          {children}
        </Text>
      </View>
    </Pressable>
  );
}

export interface IconButtonProps extends Omit<PressableProps, 'children'> {
  icon: IconType;
  /** What it does, for those who do not see the picture */
  label: string;
  busy?: boolean;
  className?: string;
}

export function IconButton({ icon: Icon, label, busy = false, className = '', ...props }: IconButtonProps) {
  return (
    <Pressable
      role="button"
      aria-label={label}
      aria-busy={busy}
      disabled={busy}
      {...props}
      className={`min-h-touch min-w-touch items-center justify-center rounded-lg hover:bg-lagoon-wash ${className}`}
    >
      {busy ? (
        <ActivityIndicator size="small" color="var(--lagoon)" aria-hidden />
      ) : (
        <Icon size={22} color="var(--ink)" aria-hidden />
      )}
    </Pressable>
  );
}
