ALTER TABLE `errands` ADD `lodged` text;--> statement-breakpoint
ALTER TABLE `listings` ADD `sights` integer DEFAULT 0 NOT NULL;