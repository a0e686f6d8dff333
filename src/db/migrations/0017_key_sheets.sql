CREATE TABLE `key_sheet` (
	`id` text PRIMARY KEY NOT NULL,
	`exam_id` text NOT NULL,
	`plan` text NOT NULL,
	`question_ids` text NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`exam_id`) REFERENCES `exam`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `key_sheet_exam` ON `key_sheet` (`exam_id`,`created_at`);