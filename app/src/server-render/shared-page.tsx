import type { SharedPageInput } from '@zephyrfield/core/api/server-render-pages';
import type { PageDay, PageLine } from '@zephyrfield/core/out/page';
import type { OutCalendar } from '@zephyrfield/core/out/going-out';
import { plural } from '@zephyrfield/core/words/text';
import type { ReactNode } from 'react';
import { Flag } from '@/ui/flag';
import { qrPath } from '@/ui/qr-path';

/** So many lines of a day stand in a month; the rest is counted, and stands in the list below. */
const IN_A_DAY = 4;

const LINK = 'inline-flex min-h-[44px] items-center font-bold text-lagoon underline';

/** A schedule, or a part of it, for anyone with the link: a month, and below it each of its days. */
export function SharedPage({ name, month, asOf, zone, path, address }: SharedPageInput) {
  const flags = new Map(month.calendars.map((each) => [each.id, each]));
  return (
    <main className="mx-auto max-w-[1100px] px-4 pb-16 pt-6 font-text text-body text-ink">
      <h1 className="font-display text-display font-extrabold">{name}</h1>
      <p className="text-small text-ink2">{`To read, as of ${asOf}. All hours are those of ${zone}.`}</p>
      <nav aria-label="Months" className="mt-4 flex flex-wrap items-baseline gap-x-6">
        <h2 className="font-display text-title font-bold">{month.title}</h2>
        <a className={LINK} href={`${path}?month=${month.before}`}>
          The month before
        </a>
        <a className={LINK} href={`${path}?month=${month.after}`}>
          The month after
        </a>
        {month.days.some((day) => day.date === month.today) ? (
          <a className={LINK} href={`#d${month.today}`}>
            Today
          </a>
        ) : null}
      </nav>
      <table className="mt-2 w-full table-fixed border-collapse">
        <thead>
          <tr>
            {month.weekdays.map((weekday) => (
              <th key={weekday} scope="col" className="p-1 text-left text-small font-normal text-ink2">
                <span aria-hidden>{weekday.slice(0, 3)}</span>
                <span className="sr-only">{weekday}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {month.weeks.map((week) => (
            <tr key={week[0]!.date}>
              {week.map((day) => (
                <Cell key={day.date} day={day} flags={flags} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {month.days.length ? (
        month.days.map((day) => <Day key={day.date} day={day} flags={flags} />)
      ) : (
        <p className="mt-6">There is nothing in this month.</p>
      )}
      <Along address={address} />
    </main>
  );
}

type Flags = ReadonlyMap<string, OutCalendar>;

function Cell({ day, flags }: { day: SharedPageInput['month']['weeks'][0][0]; flags: Flags }) {
  if (day.number === null) return <td className="bg-line/30 border border-line" />;
  const more = day.lines.length - IN_A_DAY;
  return (
    <td
      className={`h-[52px] border border-line bg-sheet p-1 align-top wide:h-[104px] ${day.isToday ? 'outline outline-2 -outline-offset-2 outline-lagoon' : ''}`}
    >
      <div className={`text-small ${day.isToday ? 'font-bold' : ''}`}>
        {day.lines.length ? (
          <a
            className="inline-flex min-h-[24px] min-w-[24px] items-center text-ink underline"
            href={`#d${day.date}`}
            aria-label={`${day.words}, ${plural(day.lines.length, 'entry', 'entries')}`}
          >
            {day.number}
          </a>
        ) : (
          day.number
        )}
      </div>
      {day.lines.length ? (
        <div aria-hidden className="text-fine text-ink2 wide:hidden">
          {day.lines.length}
        </div>
      ) : null}
      <ul aria-hidden className="hidden wide:block">
        {day.lines.slice(0, IN_A_DAY).map((line, n) => (
          <li key={n} className={`flex items-center gap-1 text-fine ${STATE[line.state]}`}>
            <Flown calendar={flags.get(line.calendarId)} size={10} />
            <span className="truncate">{line.title}</span>
          </li>
        ))}
        {more > 0 ? <li className="text-fine text-ink2">{`${more} more`}</li> : null}
      </ul>
    </td>
  );
}

/** Way in which a line looks once it is finished or called off; words beside it say so as well. */
const STATE: Record<PageLine['state'], string> = {
  open: '',
  finished: 'text-ink2 line-through',
  calledOff: 'text-ink2 line-through',
};
const STATE_WORDS: Record<PageLine['state'], string> = {
  open: '',
  finished: 'finished',
  calledOff: 'called off',
};

function Day({ day, flags }: { day: PageDay; flags: Flags }) {
  return (
    <section id={`d${day.date}`} aria-labelledby={`h${day.date}`} className="mt-6 max-w-[760px]">
      <h3 id={`h${day.date}`} className="font-display text-lead font-bold">
        {day.words}
      </h3>
      <ul>
        {day.lines.map((line, n) => (
          <Line key={n} line={line} calendar={flags.get(line.calendarId)} />
        ))}
      </ul>
    </section>
  );
}

function Line({ line, calendar }: { line: PageLine; calendar: OutCalendar | undefined }) {
  const words = [calendar?.name, line.detail, STATE_WORDS[line.state]].filter(Boolean).join(' · ');
  return (
    <li className="flex gap-3 border-b border-dashed border-line py-2">
      <span className="w-[104px] shrink-0 text-small">{line.time}</span>
      <span className="min-w-0 flex-1">
        <span className="flex items-center gap-2">
          <Flown calendar={calendar} size={13} />
          <span dir="auto" className={`font-bold [overflow-wrap:anywhere] ${STATE[line.state]}`}>
            {line.title}
          </span>
        </span>
        {words ? <span className="text-small text-ink2">{words}</span> : null}
      </span>
    </li>
  );
}

function Flown({ calendar, size }: { calendar: OutCalendar | undefined; size: number }): ReactNode {
  return calendar ? <Flag colour={calendar.colour} flag={calendar.flag} size={size} /> : null;
}

/** How to have it in a calendar of one’s own. */
function Along({ address }: { address: string }) {
  const { path, size } = qrPath(address.replace(/^https?:/, 'webcal:'));
  return (
    <section aria-labelledby="along" className="mt-10 max-w-[760px] border-t border-line pt-4">
      <h2 id="along" className="font-display text-title font-bold">
        Have it in your own calendar
      </h2>
      <p>It stays up to date by itself.</p>
      <p className="flex flex-wrap gap-x-6">
        <a className={LINK} href={address.replace(/^https?:/, 'webcal:')}>
          Open it in your calendar program
        </a>
        <a className={LINK} href={address}>
          As a file
        </a>
        <a className={LINK} href={`/gather/follow#${encodeURIComponent(address)}`}>
          Follow it in Zephyrfield
        </a>
      </p>
      <svg
        role="img"
        aria-label="The address as a picture to scan with a phone"
        width={176}
        height={176}
        viewBox={`0 0 ${size} ${size}`}
        className="mt-2 rounded-lg bg-[#fff]"
      >
        <path d={path} fill="#000" />
      </svg>
    </section>
  );
}
