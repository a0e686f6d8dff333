CREATE TABLE `exam_document` (
	`exam_id` text NOT NULL,
	`hash` text NOT NULL,
	`name` text NOT NULL,
	`bytes` integer NOT NULL,
	`pages` integer NOT NULL,
	`stored_at` integer NOT NULL,
	PRIMARY KEY(`exam_id`, `hash`),
	FOREIGN KEY (`exam_id`) REFERENCES `exam`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `exam_look` (
	`id` text PRIMARY KEY NOT NULL,
	`exam_id` text NOT NULL,
	`colleague_id` text NOT NULL,
	`asked_by` text NOT NULL,
	`asked_at` integer NOT NULL,
	`note` text DEFAULT '' NOT NULL,
	`signed_at` integer,
	`signed_over` text,
	`withdrawn_at` integer,
	FOREIGN KEY (`exam_id`) REFERENCES `exam`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`colleague_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`asked_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `exam_look_exam` ON `exam_look` (`exam_id`);--> statement-breakpoint
CREATE INDEX `exam_look_colleague` ON `exam_look` (`colleague_id`);--> statement-breakpoint
CREATE TABLE `exam_remark` (
	`id` text PRIMARY KEY NOT NULL,
	`exam_id` text NOT NULL,
	`author_id` text NOT NULL,
	`about_id` text,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`settled_at` integer,
	`settled_by` text,
	FOREIGN KEY (`exam_id`) REFERENCES `exam`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`author_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `exam_remark_exam` ON `exam_remark` (`exam_id`,`at`);--> statement-breakpoint
CREATE TABLE `course_note` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`about` text NOT NULL,
	`subject_id` text NOT NULL,
	`text` text NOT NULL,
	`created_at` integer NOT NULL,
	`done_at` integer,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `course_note_course` ON `course_note` (`course_id`,`done_at`);--> statement-breakpoint
ALTER TABLE `paper_slot` ADD `in_view` integer;--> statement-breakpoint
CREATE INDEX `paper_slot_in_view` ON `paper_slot` (`question_id`,`in_view`) WHERE in_view is not null;--> statement-breakpoint
ALTER TABLE `bank` ADD `exam_id` text;--> statement-breakpoint
CREATE UNIQUE INDEX `bank_exam_id_unique` ON `bank` (`exam_id`);--> statement-breakpoint
ALTER TABLE `course` ADD `first_day` text;--> statement-breakpoint
ALTER TABLE `course` ADD `free_days` text;