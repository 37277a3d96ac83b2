CREATE TABLE `left_locks` (
	`listing_id` text PRIMARY KEY NOT NULL,
	`record_id` text NOT NULL,
	`keys` text NOT NULL,
	`because` text NOT NULL,
	`until` integer NOT NULL,
	`by` text NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`listing_id`) REFERENCES `listings`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `left_locks_record` ON `left_locks` (`record_id`);--> statement-breakpoint
ALTER TABLE `errands` ADD `narrows` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `listings` ADD `attempts` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `pulse` ADD `beyond` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `pulse` ADD `ground` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `tallies` ADD `beyond` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `tallies` ADD `mark` text DEFAULT '' NOT NULL;--> statement-breakpoint
UPDATE `tallies` SET `mark` = lower(hex(randomblob(9))), `stale` = 1;--> statement-breakpoint
UPDATE `pulse` SET `ground` = lower(hex(randomblob(9)));
