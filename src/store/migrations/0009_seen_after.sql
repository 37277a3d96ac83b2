CREATE TABLE `seen_after` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`channel` text NOT NULL,
	`at` integer NOT NULL,
	`ms` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `seen_after_channel` ON `seen_after` (`channel`,`id`);