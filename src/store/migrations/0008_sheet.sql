CREATE TABLE `sheet_ticks` (
	`record_id` text NOT NULL,
	`line` text NOT NULL,
	`value` text NOT NULL,
	`ticked_by` text NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`record_id`, `line`),
	FOREIGN KEY (`record_id`) REFERENCES `records`(`id`) ON UPDATE no action ON DELETE no action
);
