ALTER TABLE `remark` RENAME TO `remarking`;--> statement-breakpoint
DROP INDEX `remark_question`;--> statement-breakpoint
CREATE INDEX `remarking_question` ON `remarking` (`question_id`);
