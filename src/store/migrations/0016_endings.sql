ALTER TABLE `listings` ADD `cut` text;--> statement-breakpoint
ALTER TABLE `pulse` ADD `removed` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `pulse` ADD `last_number` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `records` ADD `away_at` integer;--> statement-breakpoint
ALTER TABLE `records` ADD `exported_at` integer;