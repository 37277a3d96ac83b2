CREATE TABLE `many_edits` (
	`id` text PRIMARY KEY NOT NULL,
	`actor` text NOT NULL,
	`actor_id` text,
	`at` integer NOT NULL,
	`words` text NOT NULL,
	`records` text NOT NULL,
	`dispatch_id` text,
	`undone_at` integer
);
--> statement-breakpoint
CREATE INDEX `many_edits_at` ON `many_edits` (`at`);