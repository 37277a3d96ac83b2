CREATE TABLE `season_lines` (
	`record_id` text PRIMARY KEY NOT NULL,
	`line` text NOT NULL,
	FOREIGN KEY (`record_id`) REFERENCES `records`(`id`) ON UPDATE no action ON DELETE no action
);
