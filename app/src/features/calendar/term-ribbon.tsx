import type { CalendarView } from '@zephyrfield/core/api/schemas';
import { spokenWeek, type RibbonWeek } from '@zephyrfield/core/view/ribbon';
import { useEffect, useRef } from 'react';
import { Pressable, View } from 'react-native';
import { FILL } from '@/ui/colours';
import { ResponsiveText } from '@/ui/responsive-text';
import { useIsWide } from '@/ui/use-is-wide';
import { elementOf } from '@/ui/element';

interface Props {
  weeks: readonly RibbonWeek[];
  byId: ReadonlyMap<string, CalendarView>;
  today: number;
  /** Days in sight below, to be marked */
  first: number;
  last: number;
  /** Only the weeks' names are in sight */
  folded?: boolean;
  onWeek(start: number): void;
}

/** A band thinner than this is not told apart, and goes into the rest. */
const THINNEST = 1.5;

/**
 * The whole term as a row of week columns, each as high as its load and banded by course: the navigator. A
 * press goes there; a drag along it goes through the weeks.
 */
export function TermRibbon({ weeks, byId, today, first, last, folded, onWeek }: Props) {
  const wide = useIsWide();
  const height = wide ? 20 : 26;
  const most = Math.max(240, ...weeks.map((w) => w.minutes));
  const box = useRef<View>(null);
  // The week a drag has come to; undefined while none is made that began here: something carried may pass
  // over.
  const dragged = useRef<number | null | undefined>(undefined);
  const at = weeks.findIndex((w) => w.start <= first && w.start + 6 >= first);
  // A long term does not fit on a phone: what is looked at is brought into sight.
  useEffect(() => {
    const list = elementOf(box.current);
    if (list && at >= 0)
      list.scrollLeft = (at / Math.max(1, weeks.length)) * list.scrollWidth - list.clientWidth / 2;
  }, [at, weeks.length]);
  const drag = (x: number) => {
    const rect = elementOf(box.current)?.getBoundingClientRect();
    if (!rect) return;
    const list = elementOf(box.current)!;
    const week =
      weeks[
        Math.min(
          weeks.length - 1,
          Math.max(0, Math.floor(((x - rect.left + list.scrollLeft) / list.scrollWidth) * weeks.length)),
        )
      ];
    if (!week || week.start === dragged.current) return;
    dragged.current = week.start;
    onWeek(week.start);
  };
  return (
    <View
      ref={box}
      role="list"
      aria-label="The term by weeks"
      className={`flex-row items-end overflow-x-auto ${wide ? 'px-4' : 'pt-1'}`}
      onPointerMove={(e) => {
        if (e.nativeEvent.buttons === 1 && dragged.current !== undefined) drag(e.nativeEvent.clientX);
      }}
      onPointerDown={(e) => {
        if (e.nativeEvent.pointerType !== 'mouse') return;
        dragged.current = null;
        for (const over of ['pointerup', 'pointercancel'])
          window.addEventListener(over, () => (dragged.current = undefined), { once: true });
      }}
    >
      {weeks.map((week, i) => {
        const inSight = week.start <= last && week.start + 6 >= first;
        const name = wide ? week.name.replace(/ week$/, '') : String(i + 1);
        return (
          <View key={week.start} role="listitem" className="min-w-[24px] flex-1 measured">
            <Pressable
              role="button"
              aria-label={spokenWeek(week, i + 1)}
              aria-current={week.isNow ? 'date' : undefined}
              title={spokenWeek(week, i + 1)}
              onPress={() => onWeek(week.start)}
              className={`items-stretch rounded-t-lg px-[2px] pt-0.5 hover:bg-lagoon-wash ${inSight ? 'bg-lagoon-wash' : ''}`}
            >
              <View
                style={{ height: folded ? 0 : height + (wide ? 0 : 6) }}
                className="justify-end overflow-hidden"
              >
                {week.isBreak && week.minutes < 30 ? (
                  <Rest height={height * 0.6} />
                ) : (
                  <Bands week={week} byId={byId} height={(week.minutes / most) * height} />
                )}
                {week.isNow ? (
                  <View
                    className="absolute bottom-0 top-0 border-l-2 border-dotted border-lagoon"
                    style={{ left: `${((today - week.start + 0.5) / 7) * 100}%` }}
                    aria-hidden
                  />
                ) : null}
              </View>
              <View
                className={`items-center border-t-2 ${week.clashes.length ? 'border-poppy' : 'border-transparent'}`}
              >
                {/* A numbered week keeps its number. */}
                <ResponsiveText
                  kind="tight"
                  long={name}
                  short={name.replace(/^week (?=\d)/, 'w ')}
                  className={inSight ? 'font-bold text-lagoon' : 'text-ink2'}
                />
              </View>
            </Pressable>
          </View>
        );
      })}
    </View>
  );
}

/** What each course asks for, one over the other; what is too thin to be seen stands together. */
function Bands({
  week,
  byId,
  height,
}: {
  week: RibbonWeek;
  byId: ReadonlyMap<string, CalendarView>;
  height: number;
}) {
  const total = week.minutes || 1;
  const bands = week.bands.map((b) => ({ id: b.calendarId, height: (b.minutes / total) * height }));
  const seen = bands.filter((b) => b.height >= THINNEST);
  const rest = bands.filter((b) => b.height < THINNEST).reduce((sum, b) => sum + b.height, 0);
  return (
    <View className={`gap-px overflow-hidden rounded-t-[3px] ${week.isPast ? 'opacity-50' : ''}`} aria-hidden>
      {rest >= 1 ? <View className="bg-ink2 opacity-50" style={{ height: Math.max(2, rest) }} /> : null}
      {[...seen].reverse().map((b) => (
        <View key={b.id} className={FILL[byId.get(b.id)?.colour ?? 'slate']} style={{ height: b.height }} />
      ))}
    </View>
  );
}

/** A break: open field, drawn as a few lines of wind. */
function Rest({ height }: { height: number }) {
  return (
    <View className="justify-between" style={{ height }} aria-hidden>
      {[0, 1, 2, 3].map((i) => (
        <View key={i} className="border-t border-ink2" style={{ transform: [{ rotate: '-6deg' }] }} />
      ))}
    </View>
  );
}
