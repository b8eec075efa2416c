import { handIn } from '@/data/late';

const forms = () => import('./forms');
const plan = () => import('./plan');

handIn({
  changes: forms,
  outbox: forms,
  RunUpPart: () => plan().then((m) => m.RunUpPart),
  Reminders: () => forms().then((m) => m.Reminders),
  Records: () => forms().then((m) => m.Records),
  OwnLayer: () => forms().then((m) => m.OwnLayer),
  ItemUnderstanding: () => forms().then((m) => m.ItemUnderstanding),
  WillYouCome: () => forms().then((m) => m.WillYouCome),
  ItemNotes: () => forms().then((m) => m.ItemNotes),
  ItemOutline: () => forms().then((m) => m.ItemOutline),
  JoinItems: () => forms().then((m) => m.JoinItems),
  BriefForm: () => forms().then((m) => m.BriefForm),
  Times: () => forms().then((m) => m.Times),
  SeeAsLine: () => forms().then((m) => m.SeeAsLine),
  KeptList: () => forms().then((m) => m.KeptList),
  Sortable: () => import('./drag').then((m) => m.Sortable),
});
