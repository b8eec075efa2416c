-- What an entry is taken for is weighed now: links are read whole once more, so that no deadline stays lost.
UPDATE `source` SET `etag` = NULL, `last_modified` = NULL, `body_digest` = NULL, `context` = NULL WHERE `kind` = 'followedLink';--> statement-breakpoint
-- An identifier alone joins no two entries any more: what stood under another's for nothing else stands by itself.
UPDATE `item` SET `same_as` = NULL
  WHERE `same_as` IN (SELECT p.`id` FROM `item` p WHERE p.`uid` = `item`.`uid` AND p.`duplicate_key` IS NOT `item`.`duplicate_key`)
    AND NOT EXISTS (SELECT 1 FROM `verdict` v WHERE v.`same` AND `item`.`id` IN (v.`a`, v.`b`) AND `item`.`same_as` IN (v.`a`, v.`b`));
