CREATE TABLE `brief` (
	`item_id` text NOT NULL,
	`key` text NOT NULL,
	`value` text NOT NULL,
	`updated_at` integer NOT NULL,
	PRIMARY KEY(`item_id`, `key`),
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `record` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`item_id` text NOT NULL,
	`key` text NOT NULL,
	`kind` text NOT NULL,
	`way` text,
	`note` text DEFAULT '' NOT NULL,
	`person_id` text,
	`at` integer NOT NULL,
	FOREIGN KEY (`item_id`) REFERENCES `item`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE set null
);
--> statement-breakpoint
CREATE INDEX `record_by_item` ON `record` (`item_id`,`key`);--> statement-breakpoint
ALTER TABLE `item` ADD `version` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `layer` ADD `handed_in` text;--> statement-breakpoint
ALTER TABLE `layer` ADD `still_to_do` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `layer` ADD `aim` text;--> statement-breakpoint
ALTER TABLE `layer` ADD `estimate` integer;--> statement-breakpoint
ALTER TABLE `layer` ADD `spent` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `layer` ADD `timer_since` integer;--> statement-breakpoint
ALTER TABLE `layer` ADD `note` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `layer` ADD `hidden` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `layer` ADD `colour` text;--> statement-breakpoint
ALTER TABLE `layer` ADD `position` real;--> statement-breakpoint
ALTER TABLE `occurrence` ADD `own` integer DEFAULT false NOT NULL;