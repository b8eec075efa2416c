import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Text } from './text';

const KINDS = {
  trouble: { box: 'border-poppy bg-poppy-wash', role: 'alert' },
  warning: { box: 'border-marigold-fill bg-marigold-wash', role: 'status' },
  note: { box: 'border-lagoon bg-lagoon-wash', role: 'status' },
  good: { box: 'border-fern bg-fern-wash', role: 'status' },
} as const;

/** Says what happened and what to do about it, where it happened. */
export function Notice({
  kind,
  title,
  children,
}: {
  kind: keyof typeof KINDS;
  title: string;
  children?: ReactNode;
}) {
  const { box, role } = KINDS[kind];
  return (
    <View role={role} className={`gap-1 rounded-lg border-l-4 px-4 py-3 ${box}`}>
      <Text kind="strong">{title}</Text>
      {typeof children === 'string' ? <Text>{children}</Text> : children}
    </View>
  );
}

/** What went wrong and what to do, where anything did. */
export function ProblemNotice({
  problem,
}: {
  problem: { title: string; remedy?: string | undefined } | null | undefined;
}) {
  if (!problem) return null;
  return (
    <Notice kind="trouble" title={problem.title}>
      {problem.remedy}
    </Notice>
  );
}
