ALTER TABLE `source` ADD `total` integer;
--> statement-breakpoint
-- Contents were plain JSON objects; they become lists of the master and its overrides.
UPDATE `item` SET `content` = (SELECT json_group_array(json(value)) FROM (SELECT coalesce(json_extract(item.content, '$.master'), 'null') AS value UNION ALL SELECT json_each.value FROM json_each(item.content, '$.overrides'))) WHERE json_type(`content`) = 'object';
