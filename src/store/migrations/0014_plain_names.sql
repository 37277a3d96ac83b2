ALTER TABLE `listings` RENAME COLUMN `doubt` TO `pending_outcome`;--> statement-breakpoint
ALTER TABLE `pulse` RENAME COLUMN `ground` TO `context`;--> statement-breakpoint
ALTER TABLE `lease` RENAME COLUMN `steady` TO `monotonic`;
