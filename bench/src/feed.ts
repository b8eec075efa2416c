/**
 * A made feed of `count` entries over two years, each called what it is `of`: due dates, lessons with zones,
 * all-day ones and some repeats.
 */
export function makeFeed(
  count: number,
  options: { stamp?: string; shuffle?: boolean; changed?: number; of?: string } = {},
): string {
  const { stamp = '20260701T120000Z', shuffle = false, changed = 0, of = 'Exercise' } = options;
  const start = Date.UTC(2026, 8, 1);
  const two = (n: number) => String(n).padStart(2, '0');
  const events = Array.from({ length: count }, (_, i) => {
    const day = new Date(start + (i % 600) * 86_400_000 + (i < changed ? 7 * 86_400_000 : 0));
    const date = `${day.getUTCFullYear()}${two(day.getUTCMonth() + 1)}${two(day.getUTCDate())}`;
    const hour = two(8 + (i % 9));
    const when =
      i % 4 === 0
        ? [`DTSTART;VALUE=DATE:${date}`]
        : i % 4 === 1
          ? [`DTSTART;TZID=Europe/Dublin:${date}T${hour}1000`, `DTEND;TZID=Europe/Dublin:${date}T${hour}5000`]
          : [`DTSTART:${date}T225900Z`, `DTEND:${date}T225900Z`];
    const repeat = i % 50 === 1 ? ['RRULE:FREQ=WEEKLY;COUNT=12'] : [];
    const course = ['Boatbuilding', 'Ocean Navigation', 'Ceramics Studio', 'Norwegian'][i % 4]!;
    return [
      'BEGIN:VEVENT',
      `UID:entry-${i}@${of.toLowerCase()}.bench.example`,
      `DTSTAMP:${stamp}`,
      ...when,
      ...repeat,
      `SUMMARY:${of} ${i}\\, part ${i % 7}: reading the chart`,
      `DESCRIPTION:Work through sheet ${i} of the pack.\\nAbout 30 minutes. Hand it in on the cour`,
      ` se page: https://campus.bench.example/pages/${i}`,
      `LOCATION:Room ${i % 30}`,
      `URL:https://campus.bench.example/c/${i % 12}/task/${i}`,
      `CATEGORIES:Assignment,${course}`,
      'END:VEVENT',
    ].join('\r\n');
  });
  // Any fixed order that is not the first: every seventh, starting anew at each remainder.
  const order = shuffle
    ? events.map((_, i) => i).sort((a, b) => (a % 7) - (b % 7) || a - b)
    : events.map((_, i) => i);
  return [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Bench//EN',
    'X-WR-CALNAME:Bench',
    ...order.map((i) => events[i]!),
    'END:VCALENDAR',
    '',
  ].join('\r\n');
}
