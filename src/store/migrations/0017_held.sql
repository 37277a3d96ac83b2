ALTER TABLE `pulse` ADD `held` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `tallies` ADD `held` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
UPDATE `tallies` SET `stale` = 1;