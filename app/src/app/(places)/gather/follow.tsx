export { FollowLink as default } from '@/features/gather/follow-link';
