CREATE TABLE `told_apart` (
	`a` text NOT NULL,
	`b` text NOT NULL,
	PRIMARY KEY(`a`, `b`),
	FOREIGN KEY (`a`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`b`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `told_apart_by_b` ON `told_apart` (`b`);--> statement-breakpoint
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
ALTER TABLE `calendar` ADD `category` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `item` ADD `digest` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `item` ADD `again` integer DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE `item` ADD `part` text;--> statement-breakpoint
ALTER TABLE `item` ADD `twin_key` text;--> statement-breakpoint
ALTER TABLE `item` ADD `same_as` text REFERENCES item(id) ON DELETE SET NULL;--> statement-breakpoint
CREATE INDEX `item_by_uid` ON `item` (`learner_id`,`uid`);--> statement-breakpoint
CREATE INDEX `item_by_twin` ON `item` (`learner_id`,`twin_key`);--> statement-breakpoint
CREATE INDEX `item_same_as` ON `item` (`same_as`) WHERE same_as IS NOT NULL;--> statement-breakpoint
ALTER TABLE `occurrence` ADD `twin` integer DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX `occurrence_long` ON `occurrence` (`learner_id`,`to_ms`) WHERE to_ms - from_ms > 2592000000;--> statement-breakpoint
ALTER TABLE `source` ADD `rules` text DEFAULT '{"split":null,"corrections":[],"apart":[]}' NOT NULL;--> statement-breakpoint
ALTER TABLE `source` ADD `parts` text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `source` ADD `new_parts` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `source` ADD `context` text;--> statement-breakpoint
ALTER TABLE `source` ADD `openings` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `source` ADD `removed_at` integer;--> statement-breakpoint
CREATE TRIGGER `occurrence_follows_twin` AFTER UPDATE OF `same_as` ON `item` WHEN (old.same_as IS NULL) <> (new.same_as IS NULL)
BEGIN UPDATE `occurrence` SET `twin` = (new.same_as IS NOT NULL) WHERE `item_id` = new.id; END;
