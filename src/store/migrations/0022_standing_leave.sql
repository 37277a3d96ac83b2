ALTER TABLE `channels` ADD `standing_leave` integer DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE `listings` ADD `asked_at` integer;