CREATE TABLE `brief_file` (
	`id` text PRIMARY KEY NOT NULL,
	`learner_id` text NOT NULL,
	`item_id` text NOT NULL,
	`key` text NOT NULL,
	`name` text NOT NULL,
	`type` text NOT NULL,
	`size` integer NOT NULL,
	`digest` text NOT NULL,
	`removed_at` integer,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`learner_id`) REFERENCES `learner`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `brief_file_by_item` ON `brief_file` (`item_id`,`key`);--> statement-breakpoint
CREATE INDEX `brief_file_by_digest` ON `brief_file` (`digest`);--> statement-breakpoint
CREATE INDEX `brief_file_by_learner` ON `brief_file` (`learner_id`);--> statement-breakpoint
CREATE TABLE `kept_brief` (
	`id` text PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`name` text NOT NULL,
	`value` text NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `kept_brief_once` ON `kept_brief` (`person_id`,`name`);