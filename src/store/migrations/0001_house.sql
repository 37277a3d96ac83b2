CREATE TABLE `people` (
	`id` text PRIMARY KEY NOT NULL,
	`sort` text NOT NULL,
	`name` text NOT NULL,
	`body` text NOT NULL,
	`merged_into` text,
	`made_by` text NOT NULL,
	`made_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `people_name` ON `people` (`sort`,`name`);--> statement-breakpoint
CREATE TABLE `sales` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`record_id` text NOT NULL,
	`performance_id` text NOT NULL,
	`level_id` text NOT NULL,
	`outlet` text NOT NULL,
	`sold` integer NOT NULL,
	`at` integer NOT NULL,
	`counted_by` text NOT NULL,
	FOREIGN KEY (`record_id`) REFERENCES `records`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `sales_record` ON `sales` (`record_id`);--> statement-breakpoint
CREATE TABLE `slugs` (
	`slug` text PRIMARY KEY NOT NULL,
	`record_id` text NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`record_id`) REFERENCES `records`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `slugs_record` ON `slugs` (`record_id`);--> statement-breakpoint
CREATE TABLE `tours` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`revision` integer NOT NULL,
	`shared` text NOT NULL,
	`actor` text NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE `rooms` ADD `more` text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `rooms` ADD `merged_into` text;--> statement-breakpoint
ALTER TABLE `venues` ADD `more` text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `venues` ADD `merged_into` text;