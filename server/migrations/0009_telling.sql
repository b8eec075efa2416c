CREATE TABLE `brief_clock` (
	`person_id` text PRIMARY KEY NOT NULL,
	`done_to` integer NOT NULL,
	`next_at` integer NOT NULL,
	`mail_trouble` text,
	`mail_trouble_since` integer,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `brief_clock_by_next` ON `brief_clock` (`next_at`);--> statement-breakpoint
CREATE TABLE `delivery` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`key` text NOT NULL,
	`person_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`way` text NOT NULL,
	`news` text NOT NULL,
	`item_id` text,
	`item_key` text DEFAULT '' NOT NULL,
	`calendar_id` text,
	`title` text NOT NULL,
	`line` text NOT NULL,
	`brief` text,
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
CREATE UNIQUE INDEX `delivery_once` ON `delivery` (`key`);--> statement-breakpoint
CREATE INDEX `delivery_by_person` ON `delivery` (`person_id`,`way`,`at`);--> statement-breakpoint
CREATE INDEX `delivery_waiting` ON `delivery` (`way`,`not_before`) WHERE state = 'waiting' AND letter_id IS NULL;--> statement-breakpoint
CREATE INDEX `delivery_waiting_of` ON `delivery` (`way`,`person_id`) WHERE state = 'waiting' AND letter_id IS NULL;--> statement-breakpoint
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
CREATE TABLE `telling` (
	`person_id` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `telling_clock` (
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
CREATE INDEX `telling_clock_by_next` ON `telling_clock` (`next_at`);--> statement-breakpoint
CREATE INDEX `telling_clock_by_learner` ON `telling_clock` (`learner_id`);--> statement-breakpoint
ALTER TABLE `calendar` ADD `reminders` text;--> statement-breakpoint
ALTER TABLE `calendar` ADD `alarms` text DEFAULT 'ignore' NOT NULL;--> statement-breakpoint
ALTER TABLE `layer` ADD `reminders` text;--> statement-breakpoint
ALTER TABLE `learner` ADD `reminders` text;