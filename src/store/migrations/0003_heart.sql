CREATE TABLE `accounts` (
	`id` text PRIMARY KEY NOT NULL,
	`failures` integer DEFAULT 0 NOT NULL,
	`failing_since` integer,
	`blocked_until` integer DEFAULT 0 NOT NULL,
	`tokens` real,
	`tokens_at` integer
);
--> statement-breakpoint
CREATE TABLE `channels` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`name` text NOT NULL,
	`short_name` text NOT NULL,
	`settings` text DEFAULT '{}' NOT NULL,
	`through` text,
	`place` integer NOT NULL,
	`address` text NOT NULL,
	`credentials` text NOT NULL,
	`known_as` text NOT NULL,
	`connected` integer NOT NULL,
	`actor` text NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `gifts` (
	`listing_id` text NOT NULL,
	`record_id` text NOT NULL,
	`performance_id` text DEFAULT '' NOT NULL,
	`gift` text NOT NULL,
	`channel` text NOT NULL,
	`value` text NOT NULL,
	`since` integer NOT NULL,
	`audience` text DEFAULT 'anyone' NOT NULL,
	PRIMARY KEY(`listing_id`, `gift`, `performance_id`),
	FOREIGN KEY (`listing_id`) REFERENCES `listings`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `gifts_record` ON `gifts` (`record_id`);--> statement-breakpoint
CREATE TABLE `kept_there` (
	`account` text NOT NULL,
	`sort` text NOT NULL,
	`key` text NOT NULL,
	`value` text NOT NULL,
	PRIMARY KEY(`account`, `sort`, `key`)
);
--> statement-breakpoint
CREATE TABLE `lease` (
	`id` integer PRIMARY KEY NOT NULL,
	`boot` text NOT NULL,
	`fence` integer NOT NULL,
	`at` integer NOT NULL,
	`steady` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `listing_shown` (
	`listing_id` text PRIMARY KEY NOT NULL,
	`sent` text,
	`sent_times` text DEFAULT '{}' NOT NULL,
	`previous` text,
	`observed` text,
	`believed` text,
	`others` text DEFAULT '{}' NOT NULL,
	FOREIGN KEY (`listing_id`) REFERENCES `listings`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `pulse` (
	`id` integer PRIMARY KEY NOT NULL,
	`writes` integer NOT NULL,
	`to_send` integer NOT NULL,
	`asks` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `sold_now` (
	`record_id` text NOT NULL,
	`performance_id` text NOT NULL,
	`level_id` text NOT NULL,
	`outlet` text NOT NULL,
	`sold` integer NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`record_id`, `performance_id`, `level_id`, `outlet`)
);
--> statement-breakpoint
CREATE TABLE `tallies` (
	`record_id` text PRIMARY KEY NOT NULL,
	`to_send` integer DEFAULT 0 NOT NULL,
	`asks` integer DEFAULT 0 NOT NULL,
	`stale` integer DEFAULT true NOT NULL,
	`next_at` integer,
	FOREIGN KEY (`record_id`) REFERENCES `records`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `tallies_stale` ON `tallies` (`stale`);--> statement-breakpoint
CREATE INDEX `tallies_next` ON `tallies` (`next_at`);--> statement-breakpoint
DROP INDEX `errands_listing`;--> statement-breakpoint
ALTER TABLE `errands` ADD `over` text;--> statement-breakpoint
ALTER TABLE `errands` ADD `way` text;--> statement-breakpoint
ALTER TABLE `errands` ADD `reason` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `errands` ADD `without` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `errands` ADD `ready` integer DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE `errands` ADD `awaits` text;--> statement-breakpoint
ALTER TABLE `errands` ADD `not_before` integer;--> statement-breakpoint
ALTER TABLE `errands` ADD `deadline` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `errands` ADD `gives` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `errands` ADD `fence` integer;--> statement-breakpoint
CREATE INDEX `errands_turn` ON `errands` (`state`,`channel`,`ready`,`deadline`,`id`);--> statement-breakpoint
CREATE INDEX `errands_moment` ON `errands` (`state`,`ready`,`not_before`);--> statement-breakpoint
CREATE INDEX `errands_record` ON `errands` (`record_id`,`state`);--> statement-breakpoint
CREATE INDEX `errands_listing` ON `errands` (`listing_id`,`state`);--> statement-breakpoint
ALTER TABLE `dispatches` ADD `seen` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `listings` ADD `writes` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `listings` ADD `gone_at` integer;--> statement-breakpoint
ALTER TABLE `listings` ADD `doubt` text;--> statement-breakpoint
ALTER TABLE `listings` ADD `twins` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
CREATE INDEX `listings_due` ON `listings` (`channel`,`read_at`);--> statement-breakpoint
INSERT INTO `channels` SELECT channel, channel,
  CASE channel WHEN 'lectern' THEN 'Lectern' WHEN 'gatefold' THEN 'Gatefold' ELSE 'Hearthside' END,
  CASE channel WHEN 'lectern' THEN 'Lectern' WHEN 'gatefold' THEN 'Gatefold' ELSE 'Hearthside' END,
  '{}', NULL, CASE channel WHEN 'lectern' THEN 1 WHEN 'gatefold' THEN 2 ELSE 3 END, address, credentials, known_as, 1, actor, at FROM `connections`;
--> statement-breakpoint
INSERT INTO `channels` SELECT 'hearthside-posts', 'hearthside-posts', 'Hearthside posts', 'H. posts', '{}', 'hearthside', 4, address, '{}', known_as, 1, actor, at
  FROM `connections` WHERE channel = 'hearthside';
--> statement-breakpoint
INSERT INTO `listing_shown` (listing_id, sent, previous, observed, believed) SELECT id, sent, previous, observed,
  CASE WHEN observed IS NOT NULL AND observed_at >= ifnull(sent_at, 0) THEN observed ELSE sent END FROM `listings`;
--> statement-breakpoint
UPDATE `listing_shown` SET
  sent = CASE WHEN json_extract(sent, '$.listed.kind') = 'flag' THEN json_set(sent, '$.listed', json_object('kind', 'state', 'is', CASE WHEN json_extract(sent, '$.listed.on') THEN 'public' ELSE 'closed' END)) ELSE sent END,
  previous = CASE WHEN json_extract(previous, '$.listed.kind') = 'flag' THEN json_set(previous, '$.listed', json_object('kind', 'state', 'is', CASE WHEN json_extract(previous, '$.listed.on') THEN 'public' ELSE 'closed' END)) ELSE previous END,
  observed = CASE WHEN json_extract(observed, '$.listed.kind') = 'flag' THEN json_set(observed, '$.listed', json_object('kind', 'state', 'is', CASE WHEN json_extract(observed, '$.listed.on') THEN 'public' ELSE 'closed' END)) ELSE observed END,
  believed = CASE WHEN json_extract(believed, '$.listed.kind') = 'flag' THEN json_set(believed, '$.listed', json_object('kind', 'state', 'is', CASE WHEN json_extract(believed, '$.listed.on') THEN 'public' ELSE 'closed' END)) ELSE believed END;
--> statement-breakpoint
UPDATE `listings` SET gone_at = ifnull(observed_at, 0) WHERE remote IS NULL AND sent IS NOT NULL;
--> statement-breakpoint
UPDATE `listings` SET read_at = 0, doubt = (SELECT json_object('since', ifnull(e.claimed_at, 0), 'errand', e.id, 'looks', 0, 'lookedAt', NULL, 'shown', NULL)
  FROM errands e WHERE e.listing_id = listings.id AND e.op = 'place' AND (e.state = 'running' OR e.doubtful = 1) AND e.state IN ('waiting', 'running', 'refused') ORDER BY e.id DESC LIMIT 1)
  WHERE remote IS NULL AND sent IS NULL;
--> statement-breakpoint
UPDATE `listings` SET read_at = NULL WHERE remote IS NULL AND doubt IS NULL AND gone_at IS NULL;
--> statement-breakpoint
UPDATE `errands` SET op = 'unpublish' WHERE op = 'withdraw';
--> statement-breakpoint
UPDATE `errands` SET next_try_at = 0 WHERE state = 'waiting';
--> statement-breakpoint
INSERT INTO `gifts` (listing_id, record_id, performance_id, gift, channel, value, since, audience)
  SELECT id, record_id, '', 'ticket link', channel, json_extract(remote, '$.link'), ifnull(sent_at, 0), 'anyone' FROM `listings` WHERE json_extract(remote, '$.link') IS NOT NULL;
--> statement-breakpoint
INSERT OR REPLACE INTO `sold_now` SELECT record_id, performance_id, level_id, outlet, sold, at FROM `sales` ORDER BY id;
--> statement-breakpoint
INSERT INTO `pulse` VALUES (1, 1, 0, 0);
--> statement-breakpoint
INSERT INTO `tallies` (record_id, to_send, asks, stale) SELECT id, 0, 0, 1 FROM `records`;
--> statement-breakpoint
DELETE FROM `settings` WHERE name = 'runner-lease';
--> statement-breakpoint
INSERT OR REPLACE INTO `settings` VALUES ('channels', 'm' || lower(hex(randomblob(8))));
--> statement-breakpoint
INSERT OR REPLACE INTO `settings` VALUES ('directory', 'm' || lower(hex(randomblob(8))));
