// What people call what they go to. One list each, since a word that is learnt by one place has to be known by the
// others: by what tells somewhere to be from work, what puts an hour in the evening, and what an hour belongs to.

/** Events one goes to at an hour, any hour of the day. */
const GONE_TO =
  `choir orchestra band club training rehearsal match game swim swimming football hockey rugby netball
  ballet dance judo gym lunch dentist doctor cello violin piano guitar meeting`.split(/\s+/);
/** Events one goes out to in the evening. */
const OUT = 'dinner party disco prom concert gig cinema film theatre sleepover evening'.split(' ');
/** Further words of events, phrases among it. */
const ELSEWHERE = [
  ...`appt appointment dr gp orthodontist optician hospital vet haircut physio counsellor breakfast brunch coffee`.split(
    ' ',
  ),
  ...`fixture scouts guides tennis karate viola flute drums singing meet interview festival bus train flight`.split(
    ' ',
  ),
  ...`course audition tournament gala fair wedding church mosque visit`.split(' '),
  ...['tea with', 'open day', 'walk with'],
];

/** A title with one of some words or phrases in it. */
const anywhere = (...lists: (readonly string[])[]) => new RegExp(`\\b(${lists.flat().join('|')})\\b`, 'i');
/** A text that is one of some words. */
const whole = (...lists: (readonly string[])[]) => new RegExp(`^(${lists.flat().join('|')})$`);

/** Somewhere to be. */
export const PLACE = anywhere(GONE_TO, OUT, ELSEWHERE);
/** A word that puts an hour beside it in the evening. */
export const EVENING = whole(OUT, 'tonight tonite 2nite eve night supper movie theater pub show'.split(' '));
/** A word that an hour behind it belongs to. */
export const GOES_AT = whole(GONE_TO, 'practice lesson party dinner film cinema'.split(' '));
