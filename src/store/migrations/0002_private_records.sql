ALTER TABLE `records` ADD `private` integer DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE `records` SET `private` = 1 WHERE EXISTS (SELECT 1 FROM `revisions` WHERE `revisions`.`record_id` = `records`.`id` AND `revisions`.`number` = `records`.`revision` AND json_extract(`revisions`.`content`, '$.publicity.visibility') = 'private');
