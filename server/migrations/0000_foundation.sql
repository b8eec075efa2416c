CREATE TABLE `account` (
	`id` text PRIMARY KEY NOT NULL,
	`account_id` text NOT NULL,
	`provider_id` text NOT NULL,
	`user_id` text NOT NULL,
	`access_token` text,
	`refresh_token` text,
	`id_token` text,
	`access_token_expires_at` integer,
	`refresh_token_expires_at` integer,
	`scope` text,
	`password` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `installation` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `passkey` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text,
	`public_key` text NOT NULL,
	`user_id` text NOT NULL,
	`credential_id` text NOT NULL,
	`counter` integer NOT NULL,
	`device_type` text NOT NULL,
	`backed_up` integer NOT NULL,
	`transports` text,
	`created_at` integer,
	`aaguid` text,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `passkey_by_user` ON `passkey` (`user_id`);--> statement-breakpoint
CREATE UNIQUE INDEX `passkey_by_credential` ON `passkey` (`credential_id`);--> statement-breakpoint
CREATE TABLE `session` (
	`id` text PRIMARY KEY NOT NULL,
	`expires_at` integer NOT NULL,
	`token` text NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`ip_address` text,
	`user_agent` text,
	`user_id` text NOT NULL,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `session_token_unique` ON `session` (`token`);--> statement-breakpoint
CREATE TABLE `two_factor` (
	`id` text PRIMARY KEY NOT NULL,
	`secret` text NOT NULL,
	`backup_codes` text NOT NULL,
	`user_id` text NOT NULL,
	`verified` integer DEFAULT true NOT NULL,
	`failed_verification_count` integer DEFAULT 0 NOT NULL,
	`locked_until` integer,
	`last_step` integer,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `two_factor_by_user` ON `two_factor` (`user_id`);--> statement-breakpoint
CREATE TABLE `user` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`email_verified` integer DEFAULT false NOT NULL,
	`image` text,
	`two_factor_enabled` integer DEFAULT false NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `user_email_unique` ON `user` (`email`);--> statement-breakpoint
CREATE TABLE `verification` (
	`id` text PRIMARY KEY NOT NULL,
	`identifier` text NOT NULL,
	`value` text NOT NULL,
	`expires_at` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `access_event` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`learner_id` text NOT NULL,
	`at` integer NOT NULL,
	`kind` text NOT NULL,
	`by` text NOT NULL,
	`about` text DEFAULT '' NOT NULL,
	`calendar_ids` text,
	`access` text,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `access_event_by_learner` ON `access_event` (`learner_id`,`id`);--> statement-breakpoint
CREATE TABLE `beginning` (
	`digest` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`password_hash` text NOT NULL,
	`expires_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `beginning_by_email` ON `beginning` (`email`);--> statement-breakpoint
CREATE TABLE `confirmation` (
	`digest` text PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`kind` text DEFAULT 'confirm' NOT NULL,
	`email` text NOT NULL,
	`created_at` integer NOT NULL,
	`expires_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `confirmation_by_person` ON `confirmation` (`person_id`);--> statement-breakpoint
CREATE TABLE `crew` (
	`id` text NOT NULL,
	`person_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`access` text NOT NULL,
	`position` integer DEFAULT 0 NOT NULL,
	`joined_at` integer NOT NULL,
	PRIMARY KEY(`person_id`, `learner_id`),
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `crew_id_unique` ON `crew` (`id`);--> statement-breakpoint
CREATE INDEX `crew_by_learner` ON `crew` (`learner_id`);--> statement-breakpoint
CREATE TABLE `invitation` (
	`id` text PRIMARY KEY NOT NULL,
	`digest` text NOT NULL,
	`way` text NOT NULL,
	`email` text,
	`access` text NOT NULL,
	`as_learner` integer DEFAULT false NOT NULL,
	`invited_by` text NOT NULL,
	`uses_left` integer NOT NULL,
	`used` integer DEFAULT 0 NOT NULL,
	`created_at` integer NOT NULL,
	`expires_at` integer NOT NULL,
	FOREIGN KEY (`invited_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `invitation_digest_unique` ON `invitation` (`digest`);--> statement-breakpoint
CREATE INDEX `invitation_by_person` ON `invitation` (`invited_by`);--> statement-breakpoint
CREATE TABLE `invitation_account` (
	`invitation_id` text NOT NULL,
	`person_id` text NOT NULL,
	PRIMARY KEY(`invitation_id`, `person_id`),
	FOREIGN KEY (`invitation_id`) REFERENCES `invitation`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `invitation_to` (
	`id` text PRIMARY KEY NOT NULL,
	`invitation_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`taken_back_at` integer,
	FOREIGN KEY (`invitation_id`) REFERENCES `invitation`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `invitation_to_once` ON `invitation_to` (`invitation_id`,`learner_id`);--> statement-breakpoint
CREATE INDEX `invitation_to_by_learner` ON `invitation_to` (`learner_id`);--> statement-breakpoint
CREATE TABLE `learner` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`zone` text NOT NULL,
	`term` text,
	`reminders` text,
	`person_id` text,
	`created_by` text,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null,
	FOREIGN KEY (`created_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE TABLE `leaving` (
	`person_id` text PRIMARY KEY NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `settings` (
	`person_id` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `calendar` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`name` text NOT NULL,
	`kind` text NOT NULL,
	`category` text DEFAULT '' NOT NULL,
	`colour` text NOT NULL,
	`flag` text NOT NULL,
	`zone` text NOT NULL,
	`position` integer NOT NULL,
	`reminders` text,
	`alarms` text DEFAULT 'ignore' NOT NULL,
	`audience` text,
	`made_by` text,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`made_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `calendar_by_learner` ON `calendar` (`learner_id`,`position`);--> statement-breakpoint
CREATE TABLE `change` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`learner_id` text NOT NULL,
	`calendar_id` text NOT NULL,
	`item_id` text NOT NULL,
	`recurrence_id` text NOT NULL,
	`kind` text NOT NULL,
	`title` text NOT NULL,
	`from` text,
	`to` text,
	`former_title` text,
	`at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`calendar_id`) REFERENCES `calendar`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `change_by_learner` ON `change` (`learner_id`,`id`);--> statement-breakpoint
CREATE INDEX `change_by_item` ON `change` (`item_id`);--> statement-breakpoint
CREATE TABLE `changes_seen` (
	`person_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`up_to` integer NOT NULL,
	PRIMARY KEY(`person_id`, `learner_id`),
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `item` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`calendar_id` text NOT NULL,
	`source_id` text NOT NULL,
	`uid` text NOT NULL,
	`digest` integer DEFAULT 0 NOT NULL,
	`written` integer,
	`must_reparse` integer DEFAULT true NOT NULL,
	`section` text,
	`duplicate_key` text,
	`same_as` text,
	`kind` text NOT NULL,
	`hand_in` text NOT NULL,
	`course` text,
	`title` text NOT NULL,
	`version` integer DEFAULT 0 NOT NULL,
	`gone_at` integer,
	`unmatched` integer DEFAULT false NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`content` text NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`calendar_id`) REFERENCES `calendar`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`source_id`) REFERENCES `source`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`same_as`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE UNIQUE INDEX `item_once` ON `item` (`source_id`,`uid`);--> statement-breakpoint
CREATE INDEX `item_by_calendar` ON `item` (`calendar_id`);--> statement-breakpoint
CREATE INDEX `item_by_duplicate` ON `item` (`learner_id`,`duplicate_key`);--> statement-breakpoint
CREATE INDEX `item_same_as` ON `item` (`same_as`) WHERE same_as IS NOT NULL;--> statement-breakpoint
CREATE INDEX `item_unmatched` ON `item` (`learner_id`) WHERE unmatched;--> statement-breakpoint
CREATE TABLE `occurrence` (
	`item_id` text NOT NULL,
	`recurrence_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`calendar_id` text NOT NULL,
	`title` text NOT NULL,
	`place` text NOT NULL,
	`status` text NOT NULL,
	`kind` text NOT NULL,
	`hand_in` text NOT NULL,
	`start` text NOT NULL,
	`end` text,
	`due` text,
	`from_ms` integer NOT NULL,
	`to_ms` integer NOT NULL,
	`duplicate` integer DEFAULT false NOT NULL,
	`own` integer DEFAULT false NOT NULL,
	`done_in_course` integer DEFAULT false NOT NULL,
	`endless` integer DEFAULT false NOT NULL,
	PRIMARY KEY(`item_id`, `recurrence_id`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `occurrence_by_time` ON `occurrence` (`learner_id`,`from_ms`,`to_ms`);--> statement-breakpoint
CREATE INDEX `occurrence_long` ON `occurrence` (`learner_id`,`to_ms`) WHERE to_ms - from_ms > 2592000000;--> statement-breakpoint
CREATE TABLE `source` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`calendar_id` text NOT NULL,
	`kind` text NOT NULL,
	`published_from` text,
	`address_sealed` text NOT NULL,
	`address_masked` text NOT NULL,
	`address_digest` text NOT NULL,
	`host_digest` text DEFAULT '' NOT NULL,
	`is_plain` integer DEFAULT false NOT NULL,
	`etag` text,
	`last_modified` text,
	`body_digest` text,
	`zones` text DEFAULT '{}' NOT NULL,
	`rules` text DEFAULT '{"split":null,"corrections":[],"unjoined":[]}' NOT NULL,
	`sections` text DEFAULT '{}' NOT NULL,
	`new_sections` text DEFAULT '[]' NOT NULL,
	`context` text,
	`total` integer,
	`openings` text DEFAULT '[]' NOT NULL,
	`of_deadlines` integer DEFAULT false NOT NULL,
	`feed_name` text,
	`refresh_seconds` integer,
	`warnings` text DEFAULT '[]' NOT NULL,
	`horizon_to` integer DEFAULT 0 NOT NULL,
	`last_checked_at` integer,
	`last_good_at` integer,
	`trouble_code` text,
	`trouble_since` integer,
	`held_since` integer,
	`held_times` integer DEFAULT 0 NOT NULL,
	`held_missing` integer DEFAULT 0 NOT NULL,
	`held_of` integer DEFAULT 0 NOT NULL,
	`next_check_at` integer,
	`failures` integer DEFAULT 0 NOT NULL,
	`removed_at` integer,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`calendar_id`) REFERENCES `calendar`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`published_from`) REFERENCES `calendar`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `source_by_learner` ON `source` (`learner_id`);--> statement-breakpoint
CREATE INDEX `source_by_next_check` ON `source` (`next_check_at`);--> statement-breakpoint
CREATE INDEX `source_by_address` ON `source` (`address_digest`);--> statement-breakpoint
CREATE INDEX `source_by_published` ON `source` (`published_from`) WHERE published_from IS NOT NULL;--> statement-breakpoint
CREATE UNIQUE INDEX `source_once` ON `source` (`learner_id`,`address_digest`);--> statement-breakpoint
CREATE TABLE `verdict` (
	`a` text NOT NULL,
	`b` text NOT NULL,
	`same` integer NOT NULL,
	`carried` text DEFAULT '[]' NOT NULL,
	PRIMARY KEY(`a`, `b`),
	FOREIGN KEY (`a`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`b`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `verdict_by_b` ON `verdict` (`b`);--> statement-breakpoint
CREATE TABLE `waiting_file` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`name` text NOT NULL,
	`bytes` blob NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `waiting_file_by_time` ON `waiting_file` (`created_at`);--> statement-breakpoint
CREATE TABLE `brief` (
	`item_id` text NOT NULL,
	`recurrence_id` text NOT NULL,
	`text_id` text NOT NULL,
	`updated_at` integer NOT NULL,
	PRIMARY KEY(`item_id`, `recurrence_id`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`text_id`) REFERENCES `brief_text`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `brief_by_text` ON `brief` (`text_id`);--> statement-breakpoint
CREATE TABLE `brief_file` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`item_id` text NOT NULL,
	`recurrence_id` text NOT NULL,
	`name` text NOT NULL,
	`type` text NOT NULL,
	`size` integer NOT NULL,
	`digest` text NOT NULL,
	`of` text DEFAULT 'brief' NOT NULL,
	`person_id` text,
	`removed_at` integer,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `brief_file_by_item` ON `brief_file` (`item_id`,`recurrence_id`);--> statement-breakpoint
CREATE INDEX `brief_file_by_digest` ON `brief_file` (`digest`);--> statement-breakpoint
CREATE INDEX `brief_file_by_learner` ON `brief_file` (`learner_id`);--> statement-breakpoint
CREATE INDEX `brief_file_by_person` ON `brief_file` (`person_id`);--> statement-breakpoint
CREATE TABLE `brief_text` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`digest` text NOT NULL,
	`value` text NOT NULL,
	`used_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `brief_text_once` ON `brief_text` (`learner_id`,`digest`);--> statement-breakpoint
CREATE TABLE `kept_brief` (
	`id` text PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`name` text NOT NULL,
	`value` text NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `kept_brief_once` ON `kept_brief` (`person_id`,`name`);--> statement-breakpoint
CREATE TABLE `layer` (
	`item_id` text NOT NULL,
	`recurrence_id` text NOT NULL,
	`finished_at` integer,
	`finished_by` text,
	`handed_in` text,
	`still_to_do` integer DEFAULT false NOT NULL,
	`aim` text,
	`estimate` integer,
	`spent` integer DEFAULT 0 NOT NULL,
	`timer_since` integer,
	`position` real,
	`reminders` text,
	`version` integer NOT NULL,
	`updated_at` integer NOT NULL,
	PRIMARY KEY(`item_id`, `recurrence_id`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`finished_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `layer_running` ON `layer` (`item_id`) WHERE timer_since IS NOT NULL;--> statement-breakpoint
CREATE TABLE `person_layer` (
	`person_id` text NOT NULL,
	`item_id` text NOT NULL,
	`recurrence_id` text NOT NULL,
	`hidden` integer DEFAULT false NOT NULL,
	`colour` text,
	`note` text DEFAULT '' NOT NULL,
	`version` integer NOT NULL,
	`updated_at` integer NOT NULL,
	PRIMARY KEY(`item_id`, `recurrence_id`, `person_id`),
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `person_layer_by_person` ON `person_layer` (`person_id`);--> statement-breakpoint
CREATE TABLE `record` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`item_id` text NOT NULL,
	`recurrence_id` text NOT NULL,
	`kind` text NOT NULL,
	`way` text,
	`note` text DEFAULT '' NOT NULL,
	`person_id` text,
	`at` integer NOT NULL,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `record_by_item` ON `record` (`item_id`,`recurrence_id`);--> statement-breakpoint
CREATE TABLE `delivery` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`person_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`channel` text NOT NULL,
	`kind` text NOT NULL,
	`item_id` text,
	`recurrence_id` text DEFAULT '' NOT NULL,
	`calendar_id` text,
	`about` text,
	`title` text NOT NULL,
	`line` text NOT NULL,
	`leads` text,
	`cause` text NOT NULL,
	`cause_id` text DEFAULT '' NOT NULL,
	`moment` integer DEFAULT 0 NOT NULL,
	`snoozed_to` integer DEFAULT 0 NOT NULL,
	`sheet` text,
	`anchor` integer,
	`at` integer NOT NULL,
	`not_before` integer NOT NULL,
	`use_by` integer NOT NULL,
	`state` text NOT NULL,
	`letter_id` text,
	`reason` text,
	`seen_at` integer,
	`sent_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE set null,
	FOREIGN KEY (`calendar_id`) REFERENCES `calendar`(`id`) ON UPDATE no action ON DELETE set null,
	FOREIGN KEY (`letter_id`) REFERENCES `letter`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE UNIQUE INDEX `delivery_once` ON `delivery` (`person_id`,`learner_id`,`cause`,`cause_id`,`recurrence_id`,`moment`,`channel`,`snoozed_to`);--> statement-breakpoint
CREATE INDEX `delivery_by_person` ON `delivery` (`person_id`,`channel`,`at`);--> statement-breakpoint
CREATE INDEX `delivery_waiting` ON `delivery` (`channel`,`not_before`) WHERE state = 'waiting' AND letter_id IS NULL;--> statement-breakpoint
CREATE INDEX `delivery_waiting_of` ON `delivery` (`channel`,`person_id`) WHERE state = 'waiting' AND letter_id IS NULL;--> statement-breakpoint
CREATE INDEX `delivery_by_letter` ON `delivery` (`letter_id`) WHERE letter_id IS NOT NULL;--> statement-breakpoint
CREATE INDEX `delivery_by_item` ON `delivery` (`item_id`);--> statement-breakpoint
CREATE TABLE `letter` (
	`id` text PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`attempts` integer DEFAULT 0 NOT NULL,
	`next_try_at` integer,
	`give_up_at` integer NOT NULL,
	`sent_at` integer,
	`problem` text,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `letter_by_try` ON `letter` (`next_try_at`) WHERE next_try_at IS NOT NULL;--> statement-breakpoint
CREATE TABLE `notice_settings` (
	`person_id` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `notify_clock` (
	`person_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`done_to` integer NOT NULL,
	`changes_to` integer NOT NULL,
	`records_to` integer NOT NULL,
	`next_at` integer NOT NULL,
	PRIMARY KEY(`person_id`, `learner_id`),
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `notify_clock_by_next` ON `notify_clock` (`next_at`);--> statement-breakpoint
CREATE INDEX `notify_clock_by_learner` ON `notify_clock` (`learner_id`);--> statement-breakpoint
CREATE TABLE `sheet_clock` (
	`person_id` text PRIMARY KEY NOT NULL,
	`done_to` integer NOT NULL,
	`next_at` integer NOT NULL,
	`mail_trouble` text,
	`mail_trouble_since` integer,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `sheet_clock_by_next` ON `sheet_clock` (`next_at`);--> statement-breakpoint
CREATE TABLE `plan_settings` (
	`learner_id` text PRIMARY KEY NOT NULL,
	`settings` text NOT NULL,
	`version` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `run_up` (
	`item_id` text NOT NULL,
	`recurrence_id` text NOT NULL,
	`minutes` integer NOT NULL,
	`said_by` text NOT NULL,
	`first_day` text NOT NULL,
	`per_day` integer NOT NULL,
	`polish` integer NOT NULL,
	`shortest` integer,
	`longest` integer,
	`parts` text NOT NULL,
	`sittings` text NOT NULL,
	`version` integer NOT NULL,
	`updated_at` integer NOT NULL,
	PRIMARY KEY(`item_id`, `recurrence_id`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `share` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`made_by` text NOT NULL,
	`name` text NOT NULL,
	`digest` text NOT NULL,
	`rules` text NOT NULL,
	`page` integer NOT NULL,
	`until` text,
	`paused` integer DEFAULT false NOT NULL,
	`fetched` integer DEFAULT 0 NOT NULL,
	`last_fetched_at` integer,
	`version` integer DEFAULT 0 NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`made_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `share_digest_unique` ON `share` (`digest`);--> statement-breakpoint
CREATE INDEX `share_by_learner` ON `share` (`learner_id`);--> statement-breakpoint
CREATE INDEX `share_by_person` ON `share` (`made_by`);--> statement-breakpoint
CREATE TABLE `learner_group` (
	`person_id` text NOT NULL,
	`position` integer NOT NULL,
	`name` text NOT NULL,
	`learner_ids` text NOT NULL,
	PRIMARY KEY(`person_id`, `position`),
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `offer` (
	`id` text PRIMARY KEY NOT NULL,
	`calendar_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`offered_by` text NOT NULL,
	`state` text DEFAULT 'open' NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`calendar_id`) REFERENCES `calendar`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`offered_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `offer_once` ON `offer` (`calendar_id`,`learner_id`);--> statement-breakpoint
CREATE INDEX `offer_by_learner` ON `offer` (`learner_id`);--> statement-breakpoint
CREATE INDEX `offer_by_person` ON `offer` (`offered_by`);--> statement-breakpoint
CREATE TABLE `opened` (
	`item_id` text NOT NULL,
	`person_id` text NOT NULL,
	`first_at` integer NOT NULL,
	`last_at` integer NOT NULL,
	PRIMARY KEY(`item_id`, `person_id`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `opened_by_person` ON `opened` (`person_id`);--> statement-breakpoint
CREATE TABLE `note` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`thread_id` text NOT NULL,
	`person_id` text,
	`text` text NOT NULL,
	`plain` text NOT NULL,
	`at` integer NOT NULL,
	`corrected_at` integer,
	`taken_back_at` integer,
	`by_mail` integer DEFAULT false NOT NULL,
	`key` text,
	FOREIGN KEY (`thread_id`) REFERENCES `thread`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `note_by_thread` ON `note` (`thread_id`,`id`);--> statement-breakpoint
CREATE INDEX `note_by_person` ON `note` (`person_id`);--> statement-breakpoint
CREATE UNIQUE INDEX `note_once` ON `note` (`person_id`,`key`) WHERE key IS NOT NULL;--> statement-breakpoint
CREATE TABLE `note_file` (
	`id` text PRIMARY KEY NOT NULL,
	`note_id` integer,
	`person_id` text,
	`name` text NOT NULL,
	`type` text NOT NULL,
	`size` integer NOT NULL,
	`digest` text NOT NULL,
	`seconds` integer,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`note_id`) REFERENCES `note`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `note_file_by_note` ON `note_file` (`note_id`);--> statement-breakpoint
CREATE INDEX `note_file_by_person` ON `note_file` (`person_id`);--> statement-breakpoint
CREATE TABLE `thread` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`item_id` text,
	`recurrence_id` text DEFAULT '' NOT NULL,
	`for_all` integer NOT NULL,
	`created_at` integer NOT NULL,
	`last_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `thread_by_learner` ON `thread` (`learner_id`,`last_at`);--> statement-breakpoint
CREATE INDEX `thread_by_item` ON `thread` (`item_id`);--> statement-breakpoint
CREATE TABLE `thread_person` (
	`thread_id` text NOT NULL,
	`person_id` text NOT NULL,
	`listed` integer DEFAULT false NOT NULL,
	`read_to` integer DEFAULT 0 NOT NULL,
	`starred_at` integer,
	`done_at` integer,
	`mail_digest` text,
	PRIMARY KEY(`thread_id`, `person_id`),
	FOREIGN KEY (`thread_id`) REFERENCES `thread`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `thread_person_by_person` ON `thread_person` (`person_id`);--> statement-breakpoint
CREATE UNIQUE INDEX `thread_person_by_mail` ON `thread_person` (`mail_digest`) WHERE mail_digest IS NOT NULL;--> statement-breakpoint
CREATE TABLE `booking` (
	`id` text PRIMARY KEY NOT NULL,
	`slot_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`person_id` text,
	`word` text DEFAULT '' NOT NULL,
	`item_id` text,
	`at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`slot_id`) REFERENCES `open_slot`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `booking_by_slot` ON `booking` (`slot_id`);--> statement-breakpoint
CREATE INDEX `booking_by_learner` ON `booking` (`learner_id`);--> statement-breakpoint
CREATE UNIQUE INDEX `booking_once` ON `booking` (`slot_id`,`learner_id`) WHERE ended_at IS NULL;--> statement-breakpoint
CREATE TABLE `open_slot` (
	`id` text PRIMARY KEY NOT NULL,
	`open_time_id` text NOT NULL,
	`start_at` integer NOT NULL,
	`end_at` integer NOT NULL,
	`item_id` text,
	FOREIGN KEY (`open_time_id`) REFERENCES `open_time`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `open_slot_by_time` ON `open_slot` (`open_time_id`,`start_at`);--> statement-breakpoint
CREATE TABLE `open_time` (
	`id` text PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`title` text NOT NULL,
	`details` text DEFAULT '' NOT NULL,
	`place` text DEFAULT '' NOT NULL,
	`zone` text NOT NULL,
	`places` integer NOT NULL,
	`each` integer NOT NULL,
	`names_shown` integer NOT NULL,
	`until` integer NOT NULL,
	`created_at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `open_time_by_person` ON `open_time` (`person_id`);--> statement-breakpoint
CREATE INDEX `open_time_by_learner` ON `open_time` (`learner_id`);--> statement-breakpoint
CREATE TABLE `open_time_for` (
	`open_time_id` text NOT NULL,
	`learner_id` text NOT NULL,
	PRIMARY KEY(`open_time_id`, `learner_id`),
	FOREIGN KEY (`open_time_id`) REFERENCES `open_time`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `open_time_for_learner` ON `open_time_for` (`learner_id`);--> statement-breakpoint
CREATE TABLE `question` (
	`item_id` text PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`created_at` integer NOT NULL,
	`reminded_at` integer,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `reply` (
	`item_id` text NOT NULL,
	`recurrence_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`person_id` text NOT NULL,
	`answer` text NOT NULL,
	`word` text DEFAULT '' NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`item_id`, `recurrence_id`, `learner_id`, `person_id`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `outline` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`calendar_id` text,
	`person_id` text,
	`name` text NOT NULL,
	`page` text NOT NULL,
	`added` text NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`calendar_id`) REFERENCES `calendar`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `outline_by_learner` ON `outline` (`learner_id`);--> statement-breakpoint
CREATE INDEX `outline_by_calendar` ON `outline` (`calendar_id`);--> statement-breakpoint
CREATE INDEX `outline_by_person` ON `outline` (`person_id`);