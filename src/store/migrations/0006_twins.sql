ALTER TABLE `errands` ADD `twin` text;--> statement-breakpoint
ALTER TABLE `listings` ADD `lost` text;