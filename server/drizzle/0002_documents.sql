CREATE TABLE `document_tags` (
	`kind` text NOT NULL,
	`tag` text NOT NULL,
	`key` integer NOT NULL,
	PRIMARY KEY(`kind`, `tag`, `key`)
);
--> statement-breakpoint
CREATE INDEX `document_tags_key` ON `document_tags` (`key`);--> statement-breakpoint
CREATE TABLE `document_versions` (
	`key` integer NOT NULL,
	`number` integer NOT NULL,
	`kind` text NOT NULL,
	`note` text NOT NULL,
	`writer` text NOT NULL,
	`revision` integer NOT NULL,
	`created_at` integer NOT NULL,
	`document` text NOT NULL,
	PRIMARY KEY(`key`, `number`),
	FOREIGN KEY (`key`) REFERENCES `documents`(`key`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `documents` (
	`key` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`kind` text NOT NULL,
	`id` text NOT NULL,
	`name` text NOT NULL,
	`name_key` text NOT NULL,
	`tags` text NOT NULL,
	`listed` text NOT NULL,
	`revision` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer,
	`search_text` text NOT NULL,
	`latest` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `documents_id` ON `documents` (`kind`,`id`);--> statement-breakpoint
CREATE INDEX `documents_updated` ON `documents` (`kind`,`deleted_at`,`updated_at`,`id`);--> statement-breakpoint
CREATE INDEX `documents_name` ON `documents` (`kind`,`deleted_at`,`name_key`,`id`);--> statement-breakpoint
CREATE TABLE `milestones` (
	`name` text PRIMARY KEY NOT NULL,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `tag_counts` (
	`kind` text NOT NULL,
	`tag` text NOT NULL,
	`count` integer NOT NULL,
	PRIMARY KEY(`kind`, `tag`)
);
--> statement-breakpoint
CREATE VIRTUAL TABLE `document_texts` USING fts5(`text`, tokenize = 'trigram');
--> statement-breakpoint
CREATE TRIGGER `document_tags_inserted` AFTER INSERT ON `document_tags` BEGIN
	INSERT INTO `tag_counts` (`kind`, `tag`, `count`) VALUES (new.`kind`, new.`tag`, 1)
		ON CONFLICT (`kind`, `tag`) DO UPDATE SET `count` = `count` + 1;
END;
--> statement-breakpoint
CREATE TRIGGER `document_tags_deleted` AFTER DELETE ON `document_tags` BEGIN
	UPDATE `tag_counts` SET `count` = `count` - 1 WHERE `kind` = old.`kind` AND `tag` = old.`tag`;
	DELETE FROM `tag_counts` WHERE `kind` = old.`kind` AND `tag` = old.`tag` AND `count` <= 0;
END;
--> statement-breakpoint
CREATE TRIGGER `documents_inserted` AFTER INSERT ON `documents` BEGIN
	INSERT INTO `document_texts` (`rowid`, `text`) VALUES (new.`key`, new.`search_text`);
	INSERT INTO `document_tags` (`kind`, `tag`, `key`)
		SELECT DISTINCT new.`kind`, `value`, new.`key` FROM json_each(new.`tags`) WHERE new.`deleted_at` IS NULL;
END;
--> statement-breakpoint
CREATE TRIGGER `documents_worded` AFTER UPDATE OF `search_text` ON `documents` WHEN old.`search_text` <> new.`search_text` BEGIN
	UPDATE `document_texts` SET `text` = new.`search_text` WHERE `rowid` = new.`key`;
END;
--> statement-breakpoint
CREATE TRIGGER `documents_tagged` AFTER UPDATE OF `tags`, `deleted_at` ON `documents`
	WHEN old.`tags` <> new.`tags` OR (old.`deleted_at` IS NULL) <> (new.`deleted_at` IS NULL) BEGIN
	DELETE FROM `document_tags` WHERE `key` = new.`key`;
	INSERT INTO `document_tags` (`kind`, `tag`, `key`)
		SELECT DISTINCT new.`kind`, `value`, new.`key` FROM json_each(new.`tags`) WHERE new.`deleted_at` IS NULL;
END;
--> statement-breakpoint
CREATE TRIGGER `documents_deleted` AFTER DELETE ON `documents` BEGIN
	DELETE FROM `document_texts` WHERE `rowid` = old.`key`;
	DELETE FROM `document_tags` WHERE `key` = old.`key`;
END;
--> statement-breakpoint
INSERT INTO `documents` (`kind`, `id`, `name`, `name_key`, `tags`, `listed`, `revision`, `created_at`, `updated_at`, `deleted_at`, `search_text`, `latest`)
	SELECT 'preset', `id`, `name`, lower(`name`), `tags`,
		json_object('tempo', `tempo`, 'stageCount', `stage_count`, 'snapshotCount', `snapshot_count`),
		`revision`, `created_at`, `updated_at`, `deleted_at`, `search_text`,
		coalesce((SELECT max(`number`) FROM `versions` WHERE `preset_id` = `presets`.`id`), 0) FROM `presets`;
--> statement-breakpoint
INSERT INTO `document_versions` (`key`, `number`, `kind`, `note`, `writer`, `revision`, `created_at`, `document`)
	SELECT `documents`.`key`, `versions`.`number`, `versions`.`kind`, `versions`.`note`, `versions`.`writer`, `versions`.`revision`,
		`versions`.`created_at`, `versions`.`document`
	FROM `versions` JOIN `documents` ON `documents`.`kind` = 'preset' AND `documents`.`id` = `versions`.`preset_id`;
--> statement-breakpoint
UPDATE `documents` SET `latest` = `latest` + 1 WHERE (SELECT `document` FROM `presets` WHERE `presets`.`id` = `documents`.`id`) IS NOT
	(SELECT `document` FROM `document_versions` AS `v` WHERE `v`.`key` = `documents`.`key` AND `v`.`number` = `documents`.`latest`);
--> statement-breakpoint
INSERT OR IGNORE INTO `document_versions` (`key`, `number`, `kind`, `note`, `writer`, `revision`, `created_at`, `document`)
	SELECT `documents`.`key`, `documents`.`latest`, 'auto', '', '', `documents`.`revision`, `documents`.`updated_at`, `presets`.`document`
	FROM `documents` JOIN `presets` ON `presets`.`id` = `documents`.`id`;
