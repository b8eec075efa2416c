/** The calendar stands in the frame, so that it lives on from one of its addresses to the next. */
export default function CalendarRoute() {
  return null;
}
