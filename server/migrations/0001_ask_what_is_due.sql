ALTER TABLE `item` ADD `doubt` integer DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX `item_doubt` ON `item` (`learner_id`) WHERE doubt;