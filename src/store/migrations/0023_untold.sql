CREATE TABLE `untold` (
	`listing_id` text PRIMARY KEY NOT NULL,
	`record_id` text NOT NULL,
	`channel` text NOT NULL,
	`sold` integer NOT NULL,
	`what` text NOT NULL,
	`at` integer NOT NULL,
	`actor` text NOT NULL,
	`decision` text,
	`decided_by` text,
	`decided_at` integer
);
--> statement-breakpoint
CREATE INDEX `untold_open` ON `untold` (`decision`,`at`);