DROP TABLE `connections`;--> statement-breakpoint
DROP INDEX `errands_key_unique`;--> statement-breakpoint
DROP INDEX `errands_due`;--> statement-breakpoint
ALTER TABLE `errands` DROP COLUMN `needs`;--> statement-breakpoint
ALTER TABLE `errands` DROP COLUMN `key`;--> statement-breakpoint
ALTER TABLE `errands` DROP COLUMN `doubtful`;--> statement-breakpoint
DROP INDEX `listings_read`;--> statement-breakpoint
ALTER TABLE `listings` DROP COLUMN `sent`;--> statement-breakpoint
ALTER TABLE `listings` DROP COLUMN `previous`;--> statement-breakpoint
ALTER TABLE `listings` DROP COLUMN `observed`;