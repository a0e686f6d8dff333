CREATE TABLE `anonymous_answer` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`sheet` text NOT NULL,
	`part_title` text NOT NULL,
	`question_id` text NOT NULL,
	`version_id` text NOT NULL,
	`points` real NOT NULL,
	`presentation` text NOT NULL,
	`value` text,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `question_version`(`id`) ON UPDATE no action ON DELETE no action
) WITHOUT ROWID;
--> statement-breakpoint
CREATE INDEX `anonymous_answer_sitting` ON `anonymous_answer` (`sitting_id`,`version_id`);--> statement-breakpoint
-- Every row is given its sitting's revision at once; the default only lets the column in.
ALTER TABLE `attempt` ADD `revision_id` text DEFAULT '' NOT NULL REFERENCES exam_revision(id);--> statement-breakpoint
UPDATE `attempt` SET `revision_id` = (SELECT `revision_id` FROM `sitting` WHERE `sitting`.`id` = `attempt`.`sitting_id`);--> statement-breakpoint
ALTER TABLE `paper_slot` ADD `opened_at` integer;--> statement-breakpoint
ALTER TABLE `sitting` ADD `scored` integer DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE `sitting` ADD `counts` text DEFAULT 'score' NOT NULL;--> statement-breakpoint
ALTER TABLE `sitting` ADD `anonymous` integer DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE `sitting` SET `counts` = 'no' WHERE `in_gradebook` = 0;--> statement-breakpoint
ALTER TABLE `sitting` DROP COLUMN `in_gradebook`;