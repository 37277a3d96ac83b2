CREATE TABLE `source_counts` (
	`record_id` text NOT NULL,
	`listing_id` text NOT NULL,
	`channel` text NOT NULL,
	`source` text NOT NULL,
	`n` integer NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`listing_id`, `source`)
);
--> statement-breakpoint
CREATE INDEX `source_counts_record` ON `source_counts` (`record_id`);