CREATE TABLE `installation` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `confirmation` (
	`digest` text PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`email` text NOT NULL,
	`created_at` integer NOT NULL,
	`expires_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `confirmation_by_person` ON `confirmation` (`person_id`);--> statement-breakpoint
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
INSERT INTO `brief_text` (`id`, `learner_id`, `digest`, `value`, `used_at`)
	SELECT lower(hex(randomblob(16))), `item`.`learner_id`, 'before ' || min(`brief`.`rowid`), `brief`.`value`, max(`brief`.`updated_at`)
	FROM `brief` JOIN `item` ON `item`.`id` = `brief`.`item_id` GROUP BY `item`.`learner_id`, `brief`.`value`;--> statement-breakpoint
CREATE TABLE `brief_new` (
	`item_id` text NOT NULL,
	`key` text NOT NULL,
	`text_id` text NOT NULL,
	`updated_at` integer NOT NULL,
	PRIMARY KEY(`item_id`, `key`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`text_id`) REFERENCES `brief_text`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
INSERT INTO `brief_new` (`item_id`, `key`, `text_id`, `updated_at`)
	SELECT `brief`.`item_id`, `brief`.`key`, `brief_text`.`id`, `brief`.`updated_at` FROM `brief` JOIN `item` ON `item`.`id` = `brief`.`item_id`
	JOIN `brief_text` ON `brief_text`.`learner_id` = `item`.`learner_id` AND `brief_text`.`value` = `brief`.`value`;--> statement-breakpoint
DROP TABLE `brief`;--> statement-breakpoint
ALTER TABLE `brief_new` RENAME TO `brief`;--> statement-breakpoint
CREATE INDEX `brief_by_text` ON `brief` (`text_id`);--> statement-breakpoint
ALTER TABLE `brief_file` ADD `person_id` text REFERENCES `user`(`id`) ON DELETE set null;--> statement-breakpoint
CREATE INDEX `brief_file_by_person` ON `brief_file` (`person_id`);--> statement-breakpoint
ALTER TABLE `learner` ADD `created_by` text REFERENCES `user`(`id`) ON DELETE set null;