import { Pressable, View } from 'react-native';
import { useNotices } from '@/data/notices';
import { useSession } from '@/data/queries';
import { useSeeAs } from '@/data/see-as';
import { Link, useGlobalSearchParams, usePathname } from '@/router';
import { choiceBox, choiceWords } from '@/ui/choices';
import { Cleat } from '@/ui/cleat';
import { Text } from '@/ui/text';
import { DOORS, YOU, doorOf, heldIn, roomOf, type Door } from './doors';

const DOOR =
  'min-h-[56px] flex-1 items-center justify-center gap-0.5 rounded-lg hover:bg-lagoon-wash wide:flex-none wide:py-2';
const RAIL = 'wide:w-[84px] wide:flex-col wide:gap-1 wide:border-r wide:border-t-0 wide:px-1 wide:pt-3';
/** Doors that are there for who sees a schedule with somebody else’s eyes. */
const SEEN_AS: readonly string[] = ['/today', '/calendar', '/todo'];

/** Tells whether somebody looks after several learners. */
export const useIsForSeveral = (): boolean =>
  (useSession().data?.learners.filter((l) => !l.isSelf).length ?? 0) > 1;

/**
 * The five doors, at the foot of a phone, as a rail on a wide screen, with oneself at its end; the style sheet
 * decides, so that it is right before any script is there.
 */
export function DoorBar() {
  const here = doorOf(usePathname());
  const isSeenAs = useSeeAs((s) => s.as !== null);
  const isForSeveral = useIsForSeveral();
  return (
    <View role="navigation" aria-label="Places" className={`flex-row border-t border-line bg-sheet ${RAIL}`}>
      {DOORS.filter(({ href }) => !isSeenAs || SEEN_AS.includes(href)).map((door) => {
        // Who looks after several begins with all of them.
        const href = door.rooms.find((r) => r.isForSeveral && isForSeveral)?.href ?? door.href;
        return <DoorLink key={door.href} door={{ ...door, href }} isHere={door.href === here?.href} />;
      })}
      {isSeenAs ? null : (
        <View className="hidden wide:mt-auto wide:flex wide:pb-3">
          <Oneself isHere={here === YOU} isNamed />
        </View>
      )}
    </View>
  );
}

function DoorLink({ door: { href, words, icon: Icon }, isHere }: { door: Door; isHere: boolean }) {
  const isNews = words === 'News';
  const { unseen = 0 } = useNotices().data ?? {};
  return (
    <Link href={href} asChild>
      <Pressable
        role="link"
        aria-current={isHere ? 'page' : undefined}
        aria-label={isNews && unseen ? `${words}, ${unseen} not seen` : undefined}
        className={DOOR}
      >
        <View>
          {Icon ? (
            <Icon
              size={24}
              color={isHere ? 'var(--lagoon)' : 'var(--ink2)'}
              strokeWidth={isHere ? 2.4 : 1.8}
              aria-hidden
            />
          ) : null}
          {isNews && unseen ? <Unseen count={unseen} /> : null}
        </View>
        <Text
          kind="small"
          numberOfLines={1}
          className={`!text-[min(0.8125rem,3.5vw)] ${isHere ? 'font-bold text-lagoon' : ''}`}
        >
          {words}
        </Text>
      </Pressable>
    </Link>
  );
}

/** The number of news that is not seen yet, beside its door’s picture. */
const Unseen = ({ count }: { count: number }) => (
  <View
    aria-hidden
    className="absolute -right-[27px] top-0 h-[20px] min-w-[22px] items-center justify-center rounded-[6px] bg-lagoon px-1"
  >
    <Text kind="tight" className="!text-[0.8125rem] font-bold text-lagoon-on">
      {count > 99 ? '99+' : count}
    </Text>
  </View>
);

/** One’s own cleat, which leads to oneself. */
export function Oneself({ isHere, isNamed = false }: { isHere: boolean; isNamed?: boolean }) {
  const name = useSession().data?.person?.name;
  if (!name) return null;
  return (
    <Link href={YOU.href} asChild>
      <Pressable
        role="link"
        aria-current={isHere ? 'page' : undefined}
        aria-label={`You, ${name}`}
        className="min-h-touch min-w-touch items-center justify-center gap-0.5 rounded-lg hover:bg-lagoon-wash"
      >
        <View aria-hidden>
          <Cleat name={name} />
        </View>
        {isNamed ? (
          <Text kind="small" className={isHere ? 'font-bold text-lagoon' : ''}>
            You
          </Text>
        ) : null}
      </Pressable>
    </Link>
  );
}

/** The rooms behind the door one is at, the one that one is in chosen; nothing where there is but one. */
export function Rooms() {
  const path = usePathname();
  const asked = useGlobalSearchParams();
  const isForSeveral = useIsForSeveral();
  const door = doorOf(path);
  const here = door && roomOf(door, path, asked);
  if (!door || !here) return null;
  const rooms = door.rooms.filter((r) => !r.isForSeveral || isForSeveral);
  return (
    <View role="navigation" aria-label={door.words} className="-ml-2 flex-row flex-wrap">
      {rooms.map((room) => (
        <Link key={room.href} href={room.href} asChild>
          <Pressable
            role="link"
            aria-current={room === here ? 'page' : undefined}
            className={`${choiceBox(room === here)} !px-2`}
          >
            <Text kind="small" className={choiceWords(room === here)}>
              {room.words}
            </Text>
          </Pressable>
        </Link>
      ))}
    </View>
  );
}

/** The way back from a place that is opened from another. */
export function WayBack() {
  const from = heldIn(usePathname())?.from;
  if (!from) return null;
  return (
    <Link
      href={from.href}
      className="min-h-touch content-center self-start font-text text-small font-bold text-lagoon underline"
    >
      {`‹ ${from.words}`}
    </Link>
  );
}
