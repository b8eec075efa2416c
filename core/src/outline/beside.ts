import { endsWith } from '../lib/patterns.ts';

/** What is said beside a date that is none of the term’s: when something was printed, or came to be. */
export const NOT_PLANNED = endsWith(
  [
    'printed',
    'exported',
    'last change',
    'changed',
    'updated',
    'modified',
    '(?<!(?:first|second|third|final|last|draft|new|revised|short|long|clean|full) )version',
    'edition',
    'revised',
    'published',
    'accessed',
    'since',
    'copyright',
    '©',
    'founded',
    'established',
    'as of',
    'isbn',
    'written',
    'issued',
    'stand',
    'seit',
    'after',
  ],
  String.raw`\W{0,20}(?:on |at |am )?`,
);
/** Meanings of numbers with a stroke when they are no date. */
export const COUNTED_BEFORE = endsWith(
  [
    'room',
    'gate',
    'bench',
    'section',
    'sect',
    'no',
    'nr',
    'office',
    'hall',
    'pages?',
    'pp?',
    'version',
    'studio',
    'scale',
    'phone',
    'store',
    'shed',
    'unit',
    'ratio',
    'grade',
    'part',
    'lab',
    'b',
    'gb',
    'raum',
    'salle',
    'aula',
    'seite',
    'chapters?',
    'ch',
    'code',
  ],
  String.raw`\.?\s?[a-z]?-?`,
);
export const COUNTED_BEHIND =
  /^\s?(?:of\b|inch|in\b\s?(?:wide|long)|km|m\b|cm|mm|%|percent|points?|marks?|pages?|pts|paste|cups?|kg|g\b|hz|worn)/i;

/** Work on the day it is given out. */
const GIVEN_OUT =
  /^(?:hw|homework|(?:problem )?set|sheet|worksheet|assignment|essay|project|lab|exercises?|quiz)\s?\d{0,2}\b.{0,30}\s(?:out|assigned|posted|released|handed out|given out)$/i;
const PHONE = /\b\d{3}[-\s]\d{3,4}\b/;
const FRACTION = /(?<!\d)\d{1,3}\/\d{1,3}(?!\d)/g;
export const isGivenOut = (text: string): boolean => GIVEN_OUT.test(text);
const NOTHING_DUE = /^no (?:new )?(?:assignments?|homework|quiz(?:zes)?|tests?|readings?|exams?)$/i;
/** Gives what is no item of its own: work that is given out, a telephone, sizes, rooms. */
export const isRemark = (text: string): boolean =>
  isGivenOut(text) || NOTHING_DUE.test(text) || PHONE.test(text) || (text.match(FRACTION)?.length ?? 0) > 1;
