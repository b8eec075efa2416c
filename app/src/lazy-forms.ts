// What has forms, as one bundle loaded when the first of it is needed: so the checker and the form library
// are not in the way of who only looks. One and not many, since what two bundles share would be loaded at the
// beginning again.
export { changeCalendarOf, moveOwn } from '@/data/own';
export { BriefForm } from '@/features/calendar/brief-form';
export { HandedIn } from '@/features/calendar/handed-in';
export { ItemUnderstanding } from '@/features/calendar/item-understanding';
export { JoinItems } from '@/features/calendar/join-items';
export { ChangesPlace } from '@/features/changes/changes-place';
export { FollowLink } from '@/features/gather/follow-link';
export { GatherPlace } from '@/features/gather/gather-place';
export { ReadFiles } from '@/features/gather/read-files';
export { HiddenPlace } from '@/features/hidden/hidden-place';
export { DaySheetPlace } from '@/features/notices/day-sheet-place';
export { NoticesPlace } from '@/features/notices/notices-place';
export { NoticeSettingsPlace } from '@/features/notices/notice-settings-place';
export { OwnSheet } from '@/features/own/own-sheet';
export { Times } from '@/features/plan/times';
export { KeptList } from '@/features/frame/kept-list';
export { ReminderRules } from '@/ui/reminder-rules';
export { FirstLearner } from '@/features/people/first-learner';
export { NewAccountPlace } from '@/features/people/new-account-place';
export { ConfirmAddress } from '@/features/people/confirm-address';
export { ForOthersPage } from '@/for-others-page';
export { TablePlace } from '@/features/table/table-place';
export { NotesPlace } from '@/features/notes/notes-place';
export { ItemOutline } from '@/features/calendar/item-outline';
export { ItemNotes } from '@/features/calendar/item-notes';
export { OutlinePlace } from '@/features/outline/outline-place';
export { OpenTimesPlace } from '@/features/open-times/open-times-place';
export { WillYouCome } from '@/features/calendar/will-you-come';
export { CrewPage } from '@/crew-page';
export { JoinPlace } from '@/features/people/join-place';
export { AccountPlace } from '@/features/people/account-place';
export { ForgottenPlace } from '@/features/people/forgotten-place';
export { ResetPlace } from '@/features/people/reset-place';
export { SignIn } from '@/features/people/sign-in';
export { SettingsPage } from '@/settings-page';
