import { CrewPlace } from '@/features/crew/crew-place';
import { GoingOut } from '@/features/out/going-out';

/** The crew, with what goes out of the schedule below it. */
export const CrewPage = () => <CrewPlace out={<GoingOut />} />;
