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
CREATE TABLE `calendar` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`name` text NOT NULL,
	`sort` text NOT NULL,
	`colour` text NOT NULL,
	`flag` text NOT NULL,
	`zone` text NOT NULL,
	`position` integer NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `calendar_by_learner` ON `calendar` (`learner_id`,`position`);--> statement-breakpoint
CREATE TABLE `crew` (
	`person_id` text NOT NULL,
	`learner_id` text NOT NULL,
	`access` text NOT NULL,
	`position` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`person_id`, `learner_id`),
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `crew_by_learner` ON `crew` (`learner_id`);--> statement-breakpoint
CREATE TABLE `item` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`calendar_id` text NOT NULL,
	`source_id` text NOT NULL,
	`uid` text NOT NULL,
	`fingerprint` text NOT NULL,
	`sort` text NOT NULL,
	`hand_in` text NOT NULL,
	`course` text,
	`title` text NOT NULL,
	`content` text NOT NULL,
	`gone_at` integer,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`calendar_id`) REFERENCES `calendar`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`source_id`) REFERENCES `source`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `item_once` ON `item` (`source_id`,`uid`);--> statement-breakpoint
CREATE INDEX `item_by_calendar` ON `item` (`calendar_id`);--> statement-breakpoint
CREATE TABLE `layer` (
	`item_id` text NOT NULL,
	`key` text NOT NULL,
	`finished_at` integer,
	`finished_by` text,
	`version` integer NOT NULL,
	`updated_at` integer NOT NULL,
	PRIMARY KEY(`item_id`, `key`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`finished_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE TABLE `learner` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`zone` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `occurrence` (
	`item_id` text NOT NULL,
	`key` text NOT NULL,
	`learner_id` text NOT NULL,
	`calendar_id` text NOT NULL,
	`title` text NOT NULL,
	`place` text NOT NULL,
	`status` text NOT NULL,
	`sort` text NOT NULL,
	`hand_in` text NOT NULL,
	`start` text NOT NULL,
	`end` text,
	`due` text,
	`from_ms` integer NOT NULL,
	`to_ms` integer NOT NULL,
	PRIMARY KEY(`item_id`, `key`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `occurrence_by_time` ON `occurrence` (`learner_id`,`from_ms`,`to_ms`);--> statement-breakpoint
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
CREATE TABLE `source` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`calendar_id` text NOT NULL,
	`kind` text NOT NULL,
	`address_sealed` text NOT NULL,
	`address_masked` text NOT NULL,
	`address_digest` text NOT NULL,
	`etag` text,
	`last_modified` text,
	`body_digest` text,
	`zones` text DEFAULT '{}' NOT NULL,
	`feed_name` text,
	`refresh_seconds` integer,
	`warnings` text DEFAULT '[]' NOT NULL,
	`horizon_to` integer DEFAULT 0 NOT NULL,
	`last_checked_at` integer,
	`last_good_at` integer,
	`trouble_code` text,
	`trouble_since` integer,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`calendar_id`) REFERENCES `calendar`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `source_by_learner` ON `source` (`learner_id`);--> statement-breakpoint
CREATE UNIQUE INDEX `source_once` ON `source` (`learner_id`,`address_digest`);--> statement-breakpoint
CREATE TABLE `user` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`email_verified` integer DEFAULT false NOT NULL,
	`image` text,
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
