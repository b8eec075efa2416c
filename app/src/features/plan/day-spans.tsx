import { clockOf, minuteOfClock } from '@zephyrfield/core/time/minute';
import type { Span } from '@zephyrfield/core/plan/evenings';
import { minuteWords } from '@zephyrfield/core/words/when';
import { View } from 'react-native';
import { Button, IconButton } from '@/ui/button';
import { SavedPicker, TimeField } from '@/ui/date-field';
import { Text } from '@/ui/text';
import X from 'lucide-react-native/icons/x';

const EVENING: Span = { from: 16 * 60 + 30, to: 18 * 60 };

interface DaySpansProps {
  name: string;
  spans: readonly Span[];
  viewer: { hours?: 12 | 24 };
  mayEdit: boolean;
  error: string | undefined;
  onChange(spans: Span[]): void;
  onForget?: () => void;
}

/** The spans of a day: changed, taken out, or another one added. */
export function DaySpans({ name, spans, viewer, mayEdit, error, onChange, onForget }: DaySpansProps) {
  if (!mayEdit)
    return (
      <Text>
        {`${name}: ${spans.map((s) => `${minuteWords(s.from, viewer.hours)} to ${minuteWords(s.to % 1440, viewer.hours)}`).join(', ') || 'nothing'}`}
      </Text>
    );
  const put = (n: number, change: Partial<Span>) =>
    onChange(
      spans.map((s, m) => {
        if (m !== n) return s;
        const next = { ...s, ...change };
        // An evening that ends before it begins ends after midnight.
        const to = next.to % 1440;
        return { from: next.from, to: to <= next.from ? to + 1440 : to };
      }),
    );
  const last = spans.at(-1);
  return (
    <View role="group" aria-label={name} className="gap-1.5 border-t border-line pt-2">
      <View className="flex-row items-center justify-between">
        <Text kind="label">
          {name}
          {spans.length ? '' : ': nothing'}
        </Text>
        <View className="flex-row">
          <Button
            kind="quiet"
            className="px-2"
            onPress={() =>
              onChange([
                ...spans,
                last && last.to < 1380 ? { from: last.to + 30, to: Math.min(1440, last.to + 90) } : EVENING,
              ])
            }
          >
            {spans.length ? 'Another span' : 'Add a span'}
          </Button>
          {onForget ? (
            <Button kind="quiet" className="px-2" onPress={onForget}>
              As usual
            </Button>
          ) : null}
        </View>
      </View>
      {spans.map((span, n) => (
        <View key={n} className="flex-row items-end gap-2">
          <View className="min-w-0 flex-1">
            <SavedPicker
              as={TimeField}
              label={`${name} from`}
              value={clockOf(span.from)}
              isRequired
              onSave={(text) => {
                const from = minuteOfClock(text);
                if (from !== null) put(n, { from });
              }}
            />
          </View>
          <View className="min-w-0 flex-1">
            <SavedPicker
              as={TimeField}
              label="to"
              value={clockOf(span.to)}
              isRequired
              onSave={(text) => {
                const to = minuteOfClock(text);
                if (to !== null) put(n, { to });
              }}
            />
          </View>
          <IconButton
            icon={X}
            label={`${name}: take this span out`}
            onPress={() => onChange(spans.filter((_, m) => m !== n))}
          />
        </View>
      ))}
      {error ? (
        <Text kind="small" role="alert" className="text-poppy">
          {error}
        </Text>
      ) : null}
    </View>
  );
}
