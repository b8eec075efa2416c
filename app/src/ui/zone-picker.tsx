import { searchZones, zoneEntry, zoneNames, type ZoneEntry } from '@zephyrfield/core/time/zone-list';
import { useEffect, useId, useMemo, useState } from 'react';
import { Autocomplete } from 'react-aria-components/Autocomplete';
import { Input } from 'react-aria-components/Input';
import { ListBox, ListBoxItem } from 'react-aria-components/ListBox';
import { SearchField } from 'react-aria-components/SearchField';
import { Pressable, View } from 'react-native';
import type { PickerProps } from './picker-props';
import { Text } from './text';

/** So many are asked of Intl before others get a word in; so many are listed at once. */
const SLICE = 30;
const MOST = 50;

/** Every zone as it stands now, filled in slices, since each takes half a millisecond. */
function useZones(isWanted: boolean): readonly ZoneEntry[] {
  const [zones, setZones] = useState<readonly ZoneEntry[]>([]);
  useEffect(() => {
    if (!isWanted) return;
    const [names, now, found] = [zoneNames(), Date.now(), [] as ZoneEntry[]];
    let timer: ReturnType<typeof setTimeout>;
    const go = () => {
      for (const name of names.splice(0, SLICE)) found.push(zoneEntry(name, now));
      setZones([...found]);
      if (names.length) timer = setTimeout(go);
    };
    timer = setTimeout(go);
    return () => clearTimeout(timer);
  }, [isWanted]);
  return zones;
}

interface Props extends PickerProps {
  /** What holds where nothing is chosen; without it, something has to be */
  otherwise?: string;
}

/** A time zone, searched for by city, region, offset or name. */
export function ZonePicker({ label, hint, error, value, onChange, onLeave, otherwise }: Props) {
  const id = useId();
  const [isOpen, setIsOpen] = useState(false);
  const [text, setText] = useState('');
  const zones = useZones(isOpen);
  const found = useMemo(() => searchZones(zones, text).slice(0, MOST), [zones, text]);
  const choose = (name: string) => {
    onChange(name);
    setIsOpen(false);
    setText('');
    onLeave?.();
  };
  return (
    <View className="gap-1">
      <Text kind="label" nativeID={id}>
        {label}
      </Text>
      <Pressable
        role="button"
        aria-labelledby={id}
        aria-expanded={isOpen}
        onPress={() => setIsOpen(!isOpen)}
        className={`min-h-[44px] justify-center rounded-lg border bg-sheet px-3 ${error ? 'border-poppy' : 'border-ink2'}`}
      >
        <Text>{wordsOf(value) || otherwise || 'choose …'}</Text>
      </Pressable>
      {isOpen ? (
        <View className="gap-1 rounded-lg border border-line bg-paper p-2">
          <Autocomplete inputValue={text} onInputChange={setText}>
            <SearchField aria-label={`Search: ${label}`} autoFocus>
              <Input
                placeholder="City, country, UTC+1 …"
                className="min-h-[44px] w-full rounded-lg border border-ink2 bg-sheet px-3 font-text text-body text-ink"
              />
            </SearchField>
            <ListBox
              aria-label={label}
              items={found}
              selectionMode="single"
              selectedKeys={value ? [value] : []}
              onAction={(key) => choose(String(key))}
              renderEmptyState={() => (
                <Text kind="small">{zones.length ? 'No such zone.' : 'Looking …'}</Text>
              )}
              className="max-h-[220px] overflow-y-auto"
            >
              {(zone) => (
                <ListBoxItem
                  id={zone.name}
                  textValue={zone.city}
                  className="flex min-h-[44px] cursor-pointer items-center justify-between gap-2 rounded-lg px-2 font-text text-body text-ink outline-none hover:bg-lagoon-wash data-[focused]:bg-lagoon-wash data-[selected]:font-bold"
                >
                  <span>
                    {zone.city}
                    <span className="text-small text-ink2"> {zone.words}</span>
                  </span>
                  <span className="whitespace-nowrap text-small text-ink2">{zone.offset}</span>
                </ListBoxItem>
              )}
            </ListBox>
          </Autocomplete>
          {otherwise && value ? (
            <Pressable role="button" onPress={() => choose('')} className="min-h-touch justify-center px-2">
              <Text kind="label" className="text-lagoon underline">
                {`Use ${otherwise}`}
              </Text>
            </Pressable>
          ) : null}
        </View>
      ) : null}
      {error ? (
        <Text kind="small" className="text-poppy" role="alert">
          {error}
        </Text>
      ) : hint ? (
        <Text kind="small">{hint}</Text>
      ) : null}
    </View>
  );
}

/** `Dublin, UTC+1`; the bare name where it is none that is known. */
function wordsOf(name: string): string {
  if (!name) return '';
  try {
    const { city, offset } = zoneEntry(name, Date.now());
    return `${city}, ${offset}`;
  } catch {
    return name;
  }
}
