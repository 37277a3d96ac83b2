ALTER TABLE `pictures` ADD `name` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `pictures` ADD `credit` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `pictures` ADD `alt` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `pictures` ADD `until` text;