CREATE TABLE `change` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`learner_id` text NOT NULL,
	`calendar_id` text NOT NULL,
	`item_id` text NOT NULL,
	`key` text NOT NULL,
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
ALTER TABLE `source` ADD `held_since` integer;--> statement-breakpoint
ALTER TABLE `source` ADD `held_times` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `source` ADD `held_missing` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `source` ADD `held_of` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `source` ADD `next_check_at` integer;--> statement-breakpoint
ALTER TABLE `source` ADD `failures` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `source_by_next_check` ON `source` (`next_check_at`);