ALTER TABLE `tallies` ADD `changed` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `tallies_changed` ON `tallies` (`changed`);