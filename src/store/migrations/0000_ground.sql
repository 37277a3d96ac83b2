CREATE TABLE `connections` (
	`channel` text PRIMARY KEY NOT NULL,
	`address` text NOT NULL,
	`credentials` text NOT NULL,
	`known_as` text NOT NULL,
	`actor` text NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `dispatches` (
	`id` text PRIMARY KEY NOT NULL,
	`actor` text NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `errands` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`dispatch_id` text NOT NULL,
	`listing_id` text NOT NULL,
	`record_id` text NOT NULL,
	`channel` text NOT NULL,
	`revision` integer NOT NULL,
	`op` text NOT NULL,
	`changes` text NOT NULL,
	`needs` text NOT NULL,
	`key` text NOT NULL,
	`state` text NOT NULL,
	`tries` integer DEFAULT 0 NOT NULL,
	`next_try_at` integer NOT NULL,
	`claim` text,
	`claimed_at` integer,
	`doubtful` integer DEFAULT false NOT NULL,
	`last_error` text,
	`settled_at` integer,
	FOREIGN KEY (`dispatch_id`) REFERENCES `dispatches`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`listing_id`) REFERENCES `listings`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `errands_key_unique` ON `errands` (`key`);--> statement-breakpoint
CREATE INDEX `errands_due` ON `errands` (`state`,`next_try_at`);--> statement-breakpoint
CREATE INDEX `errands_listing` ON `errands` (`listing_id`);--> statement-breakpoint
CREATE INDEX `errands_dispatch` ON `errands` (`dispatch_id`);--> statement-breakpoint
CREATE TABLE `listings` (
	`id` text PRIMARY KEY NOT NULL,
	`record_id` text NOT NULL,
	`channel` text NOT NULL,
	`part` integer NOT NULL,
	`performance_ids` text NOT NULL,
	`remote` text,
	`sent` text,
	`previous` text,
	`sent_revision` integer,
	`sent_at` integer,
	`observed` text,
	`observed_at` integer,
	`read_at` integer,
	`read_tries` integer DEFAULT 0 NOT NULL,
	FOREIGN KEY (`record_id`) REFERENCES `records`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `listings_place` ON `listings` (`record_id`,`channel`,`part`);--> statement-breakpoint
CREATE INDEX `listings_read` ON `listings` (`read_at`);--> statement-breakpoint
CREATE TABLE `origins` (
	`origin` text PRIMARY KEY NOT NULL,
	`record_id` text NOT NULL,
	FOREIGN KEY (`record_id`) REFERENCES `records`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `pictures` (
	`id` text PRIMARY KEY NOT NULL,
	`file_name` text NOT NULL,
	`format` text NOT NULL,
	`width` integer NOT NULL,
	`height` integer NOT NULL,
	`bytes` integer NOT NULL,
	`added_by` text NOT NULL,
	`added_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `readings` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`listing_id` text NOT NULL,
	`at` integer NOT NULL,
	`observed` text,
	`error` text,
	FOREIGN KEY (`listing_id`) REFERENCES `listings`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `readings_listing` ON `readings` (`listing_id`);--> statement-breakpoint
CREATE TABLE `receipts` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`errand_id` integer NOT NULL,
	`at` integer NOT NULL,
	`outcome` text NOT NULL,
	`detail` text NOT NULL,
	FOREIGN KEY (`errand_id`) REFERENCES `errands`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `receipts_errand` ON `receipts` (`errand_id`);--> statement-breakpoint
CREATE TABLE `records` (
	`id` text PRIMARY KEY NOT NULL,
	`code` text NOT NULL,
	`revision` integer NOT NULL,
	`made_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `records_code_unique` ON `records` (`code`);--> statement-breakpoint
CREATE TABLE `revisions` (
	`record_id` text NOT NULL,
	`number` integer NOT NULL,
	`content` text NOT NULL,
	`actor` text NOT NULL,
	`at` integer NOT NULL,
	`reason` text NOT NULL,
	PRIMARY KEY(`record_id`, `number`),
	FOREIGN KEY (`record_id`) REFERENCES `records`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `rooms` (
	`id` text PRIMARY KEY NOT NULL,
	`venue_id` text NOT NULL,
	`name` text NOT NULL,
	`capacity` integer,
	FOREIGN KEY (`venue_id`) REFERENCES `venues`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `rooms_venue` ON `rooms` (`venue_id`);--> statement-breakpoint
CREATE TABLE `settings` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `venues` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`address` text NOT NULL,
	`town` text NOT NULL,
	`country` text NOT NULL,
	`zone` text NOT NULL,
	`made_by` text NOT NULL,
	`made_at` integer NOT NULL
);
