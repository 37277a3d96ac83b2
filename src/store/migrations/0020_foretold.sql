CREATE TABLE `foretold` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`dispatch_id` text NOT NULL,
	`record_id` text NOT NULL,
	`listing_id` text NOT NULL,
	`channel` text NOT NULL,
	`op` text,
	`at` integer NOT NULL,
	`monotonic` integer NOT NULL,
	`earliest` integer NOT NULL,
	`as_rule` integer NOT NULL,
	`at_latest` integer NOT NULL,
	`tells` text NOT NULL,
	`told` integer,
	`leaves` text DEFAULT '[]' NOT NULL,
	`seen_at` integer,
	`unseen_at` integer,
	`passed_over` integer DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE INDEX `foretold_dispatch` ON `foretold` (`dispatch_id`);--> statement-breakpoint
CREATE INDEX `foretold_open` ON `foretold` (`listing_id`,`seen_at`,`passed_over`);--> statement-breakpoint
CREATE INDEX `foretold_record` ON `foretold` (`record_id`);