import { ForOthersPlace } from '@/features/for-others/for-others-place';
import { NewCalendar } from '@/features/own/new-calendar';

/** Calendars for others; a new one is begun as it is everywhere. */
export const ForOthersPage = () => (
  <ForOthersPlace
    newCalendar={(learner, calendars, onMade) => (
      <NewCalendar learnerId={learner.id} zone={learner.zone} flying={calendars} onMade={onMade} />
    )}
  />
);
