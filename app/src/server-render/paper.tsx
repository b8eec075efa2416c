import type { PaperBrief, PapersInput } from '@zephyrfield/core/api/server-render-pages';
import type { OutCalendar } from '@zephyrfield/core/out/going-out';
import type { PageLine } from '@zephyrfield/core/out/page';
import type { PaperDay, PaperPage } from '@zephyrfield/core/out/paper';
import { BRIEF_FIELDS } from '@/data/briefs';
import { Flag } from '@/ui/flag';

type Flags = ReadonlyMap<string, OutCalendar>;

/** On a screen, sheets lie on the ground with their margins; a printer gives them their own. */
const ON_SCREEN =
  'mx-auto my-4 bg-[#fff] p-[12mm] shadow-md print:m-0 print:w-auto print:p-0 print:shadow-none';
const WIDTHS = {
  a4: { portrait: 'w-[210mm]', landscape: 'w-[297mm]' },
  letter: { portrait: 'w-[216mm]', landscape: 'w-[279mm]' },
} as const;

/** Weeks and months as they are printed: black on white, told apart by flags, with a box at what is to be done. */
export function Papers({ papers, asked }: PapersInput) {
  const sheet = `${ON_SCREEN} ${WIDTHS[asked.size][asked.turn]}`;
  return (
    <main className="font-text text-[10.5pt] leading-[5.2mm] text-ink">
      <div className="unprinted flex items-center gap-4 p-4">
        <button
          id="print"
          type="button"
          className="min-h-[44px] rounded-lg bg-lagoon px-4 font-bold text-lagoon-on"
        >
          Print
        </button>
        <p>Or have your browser print it. It is laid out for the paper you chose.</p>
      </div>
      {papers.map(({ learner, pages, calendars, briefs }) => {
        const flags: Flags = new Map(calendars.map((each) => [each.id, each]));
        return (
          <article key={learner} aria-label={learner}>
            {pages.map((page) => (
              <section key={page.number} className={`break-inside-avoid break-after-page ${sheet}`}>
                <Head learner={learner} page={page} />
                {page.month ? (
                  <Month page={page.month} flags={flags} turn={asked.turn} />
                ) : page.days.length === 7 && asked.turn === 'landscape' ? (
                  <Columns days={page.days} flags={flags} />
                ) : (
                  page.days.map((day, n) => <Day key={n} day={day} flags={flags} />)
                )}
                {page.number === 1 ? <Legend calendars={calendars} /> : null}
              </section>
            ))}
            {briefs.length ? <Briefs learner={learner} briefs={briefs} sheet={sheet} /> : null}
          </article>
        );
      })}
    </main>
  );
}

function Head({ learner, page: { title, number, of } }: { learner: string; page: PaperPage }) {
  return (
    <header className="mb-[3mm] flex items-baseline justify-between gap-[6mm] border-b-2 border-ink pb-[1mm]">
      <h1 className="font-display text-[16pt] font-extrabold leading-[8mm]">
        {learner}
        <span className="font-text text-[11pt] font-normal">{`  ${title}`}</span>
      </h1>
      {of > 1 ? (
        <p className="shrink-0 text-[9pt]">{`page ${number} of ${of}${number < of ? ', goes on on the next' : ''}`}</p>
      ) : null}
    </header>
  );
}

function Day({ day: { words, lines, goesOn }, flags }: { day: PaperDay; flags: Flags }) {
  return (
    <section className="break-inside-avoid">
      <h2 className="mt-[2mm] font-display text-[12pt] font-bold leading-[7mm]">
        {words}
        {goesOn ? <span className="font-text text-[9pt] font-normal"> goes on</span> : null}
      </h2>
      {lines.length ? (
        <ul>
          {lines.map((line, n) => (
            <li key={n} className="flex gap-[3mm] border-b border-dotted border-ink2 pb-[0.8mm] pt-[0.6mm]">
              <Box line={line} />
              <span className="w-[26mm] shrink-0">{line.time}</span>
              <span className="min-w-0 flex-1">
                <Title line={line} flags={flags} />
                <span className="block text-[9pt]">{wordsOf(line, flags)}</span>
              </span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-[9pt]">nothing</p>
      )}
    </section>
  );
}

const wordsOf = (line: PageLine, flags: Flags) =>
  [flags.get(line.calendarId)?.name, line.detail, line.state === 'calledOff' ? 'called off' : '']
    .filter(Boolean)
    .join(', ');

function Title({ line, flags, isPlain = false }: { line: PageLine; flags: Flags; isPlain?: boolean }) {
  const calendar = flags.get(line.calendarId);
  return (
    <span
      className={`${isPlain ? '' : 'font-bold'} [overflow-wrap:anywhere] ${line.state === 'open' ? '' : 'line-through'}`}
      dir="auto"
    >
      {calendar ? (
        <span className="mr-[1.2mm] inline-block align-[-0.4mm]">
          <Flag colour={calendar.colour} flag={calendar.flag} size={isPlain ? 9 : 11} />
        </span>
      ) : null}
      {line.title}
    </span>
  );
}

/** A box to tick at what is to be done; ticked where it is done. */
function Box({ line }: { line: PageLine }) {
  if (!line.isWork) return <span className="w-[4mm] shrink-0" />;
  const isDone = line.state === 'finished';
  return (
    <svg
      viewBox="0 0 16 16"
      className="mt-[0.6mm] h-[4mm] w-[4mm] shrink-0"
      role="img"
      aria-label={isDone ? 'done' : 'to do'}
    >
      <rect x="1" y="1" width="14" height="14" fill="none" stroke="#000" strokeWidth="1.5" />
      {isDone ? <path d="M3.5 8.5L7 12L13 4" fill="none" stroke="#000" strokeWidth="2" /> : null}
    </svg>
  );
}

function Columns({ days, flags }: { days: PaperDay[]; flags: Flags }) {
  return (
    <div className="grid grid-cols-7 border-l border-ink2 text-[9pt] leading-[4.4mm]">
      {days.map(({ words, lines, goesOn }) => (
        <section key={words} className="min-w-0 border-r border-ink2 px-[1.5mm]">
          <h2 className="border-b border-ink2 font-display text-[11pt] font-bold leading-[7mm]">
            {words}
            {goesOn && lines.length ? (
              <span className="font-text text-[8pt] font-normal"> goes on</span>
            ) : null}
          </h2>
          <ul>
            {lines.map((line, n) => (
              <li key={n} className="border-b border-dotted border-ink2 py-[0.6mm]">
                <span className="flex gap-[1mm]">
                  {line.isWork ? <Box line={line} /> : null}
                  <span>{line.time}</span>
                </span>
                <Title line={line} flags={flags} />
                {line.detail ? <span className="block text-[8pt]">{line.detail}</span> : null}
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

function Month({
  page,
  flags,
  turn,
}: {
  page: NonNullable<PaperPage['month']>;
  flags: Flags;
  turn: 'portrait' | 'landscape';
}) {
  const rows = page.weeks.length;
  const high =
    turn === 'portrait' ? (rows > 5 ? 'h-[36mm]' : 'h-[44mm]') : rows > 5 ? 'h-[24mm]' : 'h-[29mm]';
  return (
    <table className="w-full table-fixed border-collapse text-[8pt] leading-[3.9mm]">
      <thead>
        <tr>
          {page.weekdays.map((weekday) => (
            <th key={weekday} scope="col" className="text-left font-normal">
              {weekday}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {page.weeks.map((week) => (
          <tr key={week[0]!.date} className={high}>
            {week.map((day) => (
              <td key={day.date} className="overflow-hidden border border-ink2 p-[1mm] align-top">
                {day.number === null ? null : (
                  <>
                    <div className="font-bold">{day.number}</div>
                    <ul>
                      {day.lines.map((line, n) => (
                        <li key={n}>
                          <Title line={line} flags={flags} isPlain />
                        </li>
                      ))}
                      {day.left ? <li>{`${day.left} more, next page`}</li> : null}
                    </ul>
                  </>
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Legend({ calendars }: { calendars: readonly OutCalendar[] }) {
  return (
    <p className="mt-[3mm] flex flex-wrap gap-x-[5mm] text-[8.5pt] leading-[4.4mm]">
      {calendars.map(({ id, name, colour, flag }) => (
        <span key={id} className="flex items-center gap-[1.5mm]">
          <Flag colour={colour} flag={flag} size={10} />
          {name}
        </span>
      ))}
    </p>
  );
}

function Briefs({
  learner,
  briefs,
  sheet,
}: {
  learner: string;
  briefs: readonly PaperBrief[];
  sheet: string;
}) {
  return (
    <section className={`break-before-page ${sheet}`}>
      <h1 className="border-b-2 border-ink font-display text-[16pt] font-extrabold leading-[9mm]">{`${learner}: briefs`}</h1>
      {briefs.map(({ title, brief }, n) => (
        <section key={n} className="mt-[4mm]">
          <h2 className="break-after-avoid font-display text-[12pt] font-bold">{title}</h2>
          {BRIEF_FIELDS.map(([name, words]) =>
            brief[name].trim() ? (
              <p key={name} className="mt-[1mm] whitespace-pre-line [overflow-wrap:anywhere]">
                <b>{`${words} `}</b>
                {brief[name].trim()}
              </p>
            ) : null,
          )}
        </section>
      ))}
    </section>
  );
}
