CREATE TRIGGER `occurrence_follows_duplicate` AFTER UPDATE OF `same_as` ON `item` WHEN (old.same_as IS NULL) <> (new.same_as IS NULL)
BEGIN UPDATE `occurrence` SET `duplicate` = (new.same_as IS NOT NULL) WHERE `item_id` = new.id; END;
