CREATE TABLE `paper_adjustment` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`attempt_id` text NOT NULL,
	`points` real NOT NULL,
	`reason` text NOT NULL,
	`by` text NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `paper_adjustment_attempt` ON `paper_adjustment` (`attempt_id`,`id`);--> statement-breakpoint
CREATE TABLE `remark` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`question_id` text NOT NULL,
	`version_id` text NOT NULL,
	`policy` text NOT NULL,
	`reason` text NOT NULL,
	`by` text NOT NULL,
	`at` integer NOT NULL,
	`taken_back_at` integer,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`question_id`) REFERENCES `question`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `question_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `remark_question` ON `remark` (`question_id`);--> statement-breakpoint
CREATE TABLE `returned_file` (
	`id` text PRIMARY KEY NOT NULL,
	`slot_id` text NOT NULL,
	`name` text NOT NULL,
	`type` text NOT NULL,
	`bytes` integer NOT NULL,
	`hash` text NOT NULL,
	`batch` text NOT NULL,
	`at` integer NOT NULL,
	`taken_back_at` integer,
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `returned_file_slot` ON `returned_file` (`slot_id`);--> statement-breakpoint
CREATE INDEX `returned_file_batch` ON `returned_file` (`batch`);--> statement-breakpoint
CREATE TABLE `saved_comment` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`question_id` text NOT NULL,
	`text` text NOT NULL,
	`used` integer DEFAULT 0 NOT NULL,
	`created_by` text NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`question_id`) REFERENCES `question`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `saved_comment_text` ON `saved_comment` (`course_id`,`question_id`,`text`);--> statement-breakpoint
CREATE TABLE `second_mark` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`slot_id` text NOT NULL,
	`response_revision` integer NOT NULL,
	`points` real NOT NULL,
	`comment` text DEFAULT '' NOT NULL,
	`rubric` text,
	`notes` text,
	`marker_id` text NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `second_mark_slot` ON `second_mark` (`slot_id`,`id`);--> statement-breakpoint
CREATE TABLE `second_marking` (
	`sitting_id` text PRIMARY KEY NOT NULL,
	`marker_id` text NOT NULL,
	`share` real NOT NULL,
	`threshold` real NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `mark` ADD `rubric` text;--> statement-breakpoint
ALTER TABLE `mark` ADD `notes` text;--> statement-breakpoint
ALTER TABLE `mark` ADD `batch` text;--> statement-breakpoint
ALTER TABLE `mark` ADD `taken_back_at` integer;--> statement-breakpoint
CREATE INDEX `mark_batch` ON `mark` (`batch`);