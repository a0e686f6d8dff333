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
CREATE TABLE `attempt` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`user_id` text NOT NULL,
	`number` integer NOT NULL,
	`state` text NOT NULL,
	`state_before` text,
	`snapshot_id` text NOT NULL,
	`revision_id` text NOT NULL,
	`seed` text NOT NULL,
	`started_at` integer NOT NULL,
	`ended_at` integer,
	`ended_by` text,
	`added` integer DEFAULT 0 NOT NULL,
	`writer_epoch` integer DEFAULT 0 NOT NULL,
	`last_contact` integer,
	`reached` integer DEFAULT 0 NOT NULL,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`snapshot_id`) REFERENCES `pool_snapshot`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`revision_id`) REFERENCES `exam_revision`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `attempt_number` ON `attempt` (`sitting_id`,`user_id`,`number`);--> statement-breakpoint
CREATE UNIQUE INDEX `attempt_one_running` ON `attempt` (`sitting_id`,`user_id`) WHERE state = 'running';--> statement-breakpoint
CREATE INDEX `attempt_user` ON `attempt` (`user_id`,`started_at`);--> statement-breakpoint
CREATE INDEX `attempt_state` ON `attempt` (`state`,`sitting_id`);--> statement-breakpoint
CREATE TABLE `attempt_event` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`attempt_id` text NOT NULL,
	`at` integer NOT NULL,
	`kind` text NOT NULL,
	`actor_id` text,
	`detail` text,
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `attempt_event_attempt` ON `attempt_event` (`attempt_id`,`id`);--> statement-breakpoint
CREATE TABLE `paper_slot` (
	`id` text PRIMARY KEY NOT NULL,
	`attempt_id` text NOT NULL,
	`position` integer NOT NULL,
	`part_id` text NOT NULL,
	`part_title` text NOT NULL,
	`line_id` text NOT NULL,
	`question_id` text NOT NULL,
	`version_id` text NOT NULL,
	`passage_version_id` text,
	`points` real NOT NULL,
	`presentation` text NOT NULL,
	`opened_at` integer,
	`again_at` integer,
	`in_view` integer,
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `question_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`passage_version_id`) REFERENCES `passage_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `paper_slot_position` ON `paper_slot` (`attempt_id`,`position`);--> statement-breakpoint
CREATE INDEX `paper_slot_question` ON `paper_slot` (`question_id`);--> statement-breakpoint
CREATE INDEX `paper_slot_version` ON `paper_slot` (`version_id`);--> statement-breakpoint
CREATE INDEX `paper_slot_in_view` ON `paper_slot` (`question_id`,`in_view`) WHERE in_view is not null;--> statement-breakpoint
CREATE TABLE `question_try` (
	`slot_id` text NOT NULL,
	`number` integer NOT NULL,
	`again` integer DEFAULT false NOT NULL,
	`response_revision` integer NOT NULL,
	`value` text,
	`credit` real NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`slot_id`, `number`),
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `response` (
	`slot_id` text PRIMARY KEY NOT NULL,
	`attempt_id` text NOT NULL,
	`value` text,
	`come_back` integer DEFAULT false NOT NULL,
	`revision` integer NOT NULL,
	`epoch` integer NOT NULL,
	`sequence` integer NOT NULL,
	`saved_at` integer NOT NULL,
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `response_attempt` ON `response` (`attempt_id`);--> statement-breakpoint
CREATE TABLE `response_aside` (
	`slot_id` text NOT NULL,
	`epoch` integer NOT NULL,
	`sequence` integer NOT NULL,
	`value` text,
	`reason` text NOT NULL,
	`received_at` integer NOT NULL,
	`given_at` integer,
	`decision` text,
	`decided_by` text,
	`decided_at` integer,
	PRIMARY KEY(`slot_id`, `epoch`, `sequence`),
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `response_file` (
	`id` text PRIMARY KEY NOT NULL,
	`slot_id` text NOT NULL,
	`name` text NOT NULL,
	`type` text NOT NULL,
	`bytes` integer NOT NULL,
	`hash` text NOT NULL,
	`received_at` integer NOT NULL,
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `response_file_slot` ON `response_file` (`slot_id`);--> statement-breakpoint
CREATE TABLE `bank` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`usual_points` text,
	`exam_id` text,
	`created_by` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `bank_exam_id_unique` ON `bank` (`exam_id`);--> statement-breakpoint
CREATE TABLE `category` (
	`id` text PRIMARY KEY NOT NULL,
	`bank_id` text NOT NULL,
	`parent_id` text,
	`name` text NOT NULL,
	`position` integer NOT NULL,
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `category_bank` ON `category` (`bank_id`,`parent_id`,`position`);--> statement-breakpoint
CREATE TABLE `course_bank` (
	`course_id` text NOT NULL,
	`bank_id` text NOT NULL,
	PRIMARY KEY(`course_id`, `bank_id`),
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `course_bank_bank` ON `course_bank` (`bank_id`);--> statement-breakpoint
CREATE TABLE `media` (
	`hash` text PRIMARY KEY NOT NULL,
	`type` text NOT NULL,
	`kind` text NOT NULL,
	`bytes` integer NOT NULL,
	`width` integer,
	`height` integer,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `media_bank` (
	`hash` text NOT NULL,
	`bank_id` text NOT NULL,
	PRIMARY KEY(`hash`, `bank_id`),
	FOREIGN KEY (`hash`) REFERENCES `media`(`hash`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `media_version` (
	`hash` text NOT NULL,
	`version_id` text NOT NULL,
	PRIMARY KEY(`hash`, `version_id`),
	FOREIGN KEY (`hash`) REFERENCES `media`(`hash`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `media_version_version` ON `media_version` (`version_id`);--> statement-breakpoint
CREATE TABLE `objective` (
	`id` text PRIMARY KEY NOT NULL,
	`bank_id` text NOT NULL,
	`code` text NOT NULL,
	`wording` text NOT NULL,
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `objective_code` ON `objective` (`bank_id`,`code`);--> statement-breakpoint
CREATE TABLE `passage` (
	`id` text PRIMARY KEY NOT NULL,
	`bank_id` text NOT NULL,
	`short_name` text NOT NULL,
	`current_version_id` text,
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `passage_bank` ON `passage` (`bank_id`);--> statement-breakpoint
CREATE TABLE `passage_version` (
	`id` text PRIMARY KEY NOT NULL,
	`passage_id` text NOT NULL,
	`number` integer NOT NULL,
	`content` text NOT NULL,
	`created_at` integer NOT NULL,
	`frozen_at` integer,
	FOREIGN KEY (`passage_id`) REFERENCES `passage`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `passage_version_number` ON `passage_version` (`passage_id`,`number`);--> statement-breakpoint
CREATE TABLE `question` (
	`id` text PRIMARY KEY NOT NULL,
	`bank_id` text NOT NULL,
	`category_id` text NOT NULL,
	`type` text NOT NULL,
	`short_name` text DEFAULT '' NOT NULL,
	`difficulty` text,
	`points` real,
	`passage_id` text,
	`current_version_id` text NOT NULL,
	`edit` integer DEFAULT 1 NOT NULL,
	`created_by` text NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`retired_at` integer,
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`category_id`) REFERENCES `category`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`passage_id`) REFERENCES `passage`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `question_category` ON `question` (`category_id`,`created_at`);--> statement-breakpoint
CREATE INDEX `question_bank` ON `question` (`bank_id`,`created_at`);--> statement-breakpoint
CREATE INDEX `question_passage` ON `question` (`passage_id`);--> statement-breakpoint
CREATE INDEX `question_changed` ON `question` (`bank_id`,`updated_at`);--> statement-breakpoint
CREATE TABLE `question_draft` (
	`user_id` text NOT NULL,
	`bank_id` text NOT NULL,
	`subject` text NOT NULL,
	`edit` integer NOT NULL,
	`fields` text NOT NULL,
	`saved_at` integer NOT NULL,
	PRIMARY KEY(`user_id`, `bank_id`, `subject`),
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `question_objective` (
	`question_id` text NOT NULL,
	`objective_id` text NOT NULL,
	PRIMARY KEY(`question_id`, `objective_id`),
	FOREIGN KEY (`question_id`) REFERENCES `question`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`objective_id`) REFERENCES `objective`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `question_objective_objective` ON `question_objective` (`objective_id`);--> statement-breakpoint
CREATE TABLE `question_tag` (
	`question_id` text NOT NULL,
	`tag` text NOT NULL,
	PRIMARY KEY(`question_id`, `tag`),
	FOREIGN KEY (`question_id`) REFERENCES `question`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `question_tag_tag` ON `question_tag` (`tag`);--> statement-breakpoint
CREATE TABLE `question_version` (
	`id` text PRIMARY KEY NOT NULL,
	`question_id` text NOT NULL,
	`number` integer NOT NULL,
	`content` text NOT NULL,
	`plain_text` text NOT NULL,
	`created_by` text NOT NULL,
	`created_at` integer NOT NULL,
	`frozen_at` integer,
	FOREIGN KEY (`question_id`) REFERENCES `question`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `question_version_number` ON `question_version` (`question_id`,`number`);--> statement-breakpoint
CREATE TABLE `question_words` (
	`row` integer PRIMARY KEY NOT NULL,
	`question_id` text NOT NULL,
	FOREIGN KEY (`question_id`) REFERENCES `question`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `question_words_question_id_unique` ON `question_words` (`question_id`);--> statement-breakpoint
CREATE TABLE `saved_filter` (
	`id` text PRIMARY KEY NOT NULL,
	`user_id` text NOT NULL,
	`bank_id` text NOT NULL,
	`name` text NOT NULL,
	`query` text NOT NULL,
	FOREIGN KEY (`bank_id`) REFERENCES `bank`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `saved_filter_name` ON `saved_filter` (`user_id`,`bank_id`,`name`);--> statement-breakpoint
CREATE TABLE `exam` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`title` text NOT NULL,
	`current_revision_id` text NOT NULL,
	`created_by` text NOT NULL,
	`created_at` integer NOT NULL,
	`archived_at` integer,
	`year` text DEFAULT '' NOT NULL,
	`subject` text DEFAULT '' NOT NULL,
	`level` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `exam_course` ON `exam` (`course_id`,`created_at`);--> statement-breakpoint
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
CREATE TABLE `exam_revision` (
	`id` text PRIMARY KEY NOT NULL,
	`exam_id` text NOT NULL,
	`number` integer NOT NULL,
	`design` text NOT NULL,
	`edit` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL,
	`frozen_at` integer,
	FOREIGN KEY (`exam_id`) REFERENCES `exam`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `exam_revision_number` ON `exam_revision` (`exam_id`,`number`);--> statement-breakpoint
CREATE TABLE `grade_column` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`sitting_id` text,
	`title` text NOT NULL,
	`worth` real,
	`group_id` text,
	`extra_credit` integer DEFAULT false NOT NULL,
	`curve` text,
	`late` text,
	`position` integer NOT NULL,
	`removed_at` integer,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`group_id`) REFERENCES `grade_group`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `grade_column_course` ON `grade_column` (`course_id`,`position`);--> statement-breakpoint
CREATE TABLE `grade_entry` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`column_id` text NOT NULL,
	`course_id` text NOT NULL,
	`user_id` text NOT NULL,
	`points` real,
	`excused` integer DEFAULT false NOT NULL,
	`reason` text DEFAULT '' NOT NULL,
	`batch` text,
	`taken_back_at` integer,
	`at` integer NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `grade_entry_course` ON `grade_entry` (`course_id`,`column_id`,`user_id`);--> statement-breakpoint
CREATE INDEX `grade_entry_batch` ON `grade_entry` (`batch`);--> statement-breakpoint
CREATE TABLE `grade_group` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`title` text NOT NULL,
	`weight` real NOT NULL,
	`counting` text NOT NULL,
	`drop` integer NOT NULL,
	`position` integer NOT NULL,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `grade_group_course` ON `grade_group` (`course_id`,`position`);--> statement-breakpoint
CREATE TABLE `audit` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` integer NOT NULL,
	`actor_id` text,
	`course_id` text,
	`action` text NOT NULL,
	`subject_id` text NOT NULL,
	`detail` text,
	`undo` text,
	`undone_at` integer
);
--> statement-breakpoint
CREATE INDEX `audit_course` ON `audit` (`course_id`,`id`);--> statement-breakpoint
CREATE INDEX `audit_subject` ON `audit` (`subject_id`,`id`);--> statement-breakpoint
CREATE TABLE `installation` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `job` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`state` text NOT NULL,
	`done` integer DEFAULT 0 NOT NULL,
	`total` integer DEFAULT 0 NOT NULL,
	`input` text,
	`output` text,
	`problem` text,
	`started_by` text,
	`created_at` integer NOT NULL,
	`ended_at` integer
);
--> statement-breakpoint
CREATE INDEX `job_state` ON `job` (`state`,`created_at`);--> statement-breakpoint
CREATE TABLE `outbox` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` integer NOT NULL,
	`course_id` text,
	`user_id` text NOT NULL,
	`email` text NOT NULL,
	`subject` text NOT NULL,
	`body` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `outbox_course` ON `outbox` (`course_id`,`id`);--> statement-breakpoint
CREATE INDEX `outbox_user` ON `outbox` (`user_id`);--> statement-breakpoint
CREATE TABLE `preference` (
	`user_id` text NOT NULL,
	`name` text NOT NULL,
	`value` text NOT NULL,
	PRIMARY KEY(`user_id`, `name`)
);
--> statement-breakpoint
CREATE TABLE `mark` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`slot_id` text NOT NULL,
	`response_revision` integer NOT NULL,
	`version_id` text NOT NULL,
	`kind` text NOT NULL,
	`points` real NOT NULL,
	`comment` text DEFAULT '' NOT NULL,
	`rubric` text,
	`notes` text,
	`reason` text DEFAULT '' NOT NULL,
	`marker_id` text,
	`at` integer NOT NULL,
	`outdated` integer DEFAULT false NOT NULL,
	`batch` text,
	`taken_back_at` integer,
	FOREIGN KEY (`slot_id`) REFERENCES `paper_slot`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `question_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `mark_slot` ON `mark` (`slot_id`,`id`);--> statement-breakpoint
CREATE INDEX `mark_batch` ON `mark` (`batch`);--> statement-breakpoint
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
CREATE TABLE `account` (
	`id` text PRIMARY KEY NOT NULL,
	`account_id` text NOT NULL,
	`provider_id` text NOT NULL,
	`user_id` text NOT NULL,
	`password` text,
	`access_token` text,
	`refresh_token` text,
	`id_token` text,
	`access_token_expires_at` integer,
	`refresh_token_expires_at` integer,
	`scope` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `account_user` ON `account` (`user_id`);--> statement-breakpoint
CREATE TABLE `course` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`term` text DEFAULT '' NOT NULL,
	`time_zone` text NOT NULL,
	`first_day` text,
	`free_days` text,
	`gradebook` text,
	`sheet_layout` text,
	`created_at` integer NOT NULL,
	`archived_at` integer
);
--> statement-breakpoint
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
CREATE TABLE `invitation` (
	`token_hash` text PRIMARY KEY NOT NULL,
	`user_id` text NOT NULL,
	`expires_at` integer NOT NULL,
	`used_at` integer,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `marker_assignment` (
	`sitting_id` text NOT NULL,
	`user_id` text NOT NULL,
	PRIMARY KEY(`sitting_id`, `user_id`),
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `marker_assignment_user` ON `marker_assignment` (`user_id`);--> statement-breakpoint
CREATE TABLE `membership` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`user_id` text NOT NULL,
	`role` text NOT NULL,
	`section_id` text,
	`student_number` text,
	`standing` text,
	`only_sitting` text,
	`added_at` integer NOT NULL,
	`removed_at` integer,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`section_id`) REFERENCES `section`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `membership_person` ON `membership` (`course_id`,`user_id`);--> statement-breakpoint
CREATE INDEX `membership_user` ON `membership` (`user_id`);--> statement-breakpoint
CREATE TABLE `section` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`name` text NOT NULL,
	`position` integer NOT NULL,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `section_name` ON `section` (`course_id`,`name`);--> statement-breakpoint
CREATE TABLE `session` (
	`id` text PRIMARY KEY NOT NULL,
	`token` text NOT NULL,
	`user_id` text NOT NULL,
	`expires_at` integer NOT NULL,
	`ip_address` text,
	`user_agent` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `session_token_unique` ON `session` (`token`);--> statement-breakpoint
CREATE INDEX `session_user` ON `session` (`user_id`);--> statement-breakpoint
CREATE TABLE `user` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`email_verified` integer DEFAULT false NOT NULL,
	`image` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `user_email_unique` ON `user` (`email`);--> statement-breakpoint
CREATE TABLE `verification` (
	`id` text PRIMARY KEY NOT NULL,
	`identifier` text NOT NULL,
	`value` text NOT NULL,
	`expires_at` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `feedback_reply` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`user_id` text NOT NULL,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`read_at` integer,
	`read_by` text,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`read_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `feedback_reply_sitting` ON `feedback_reply` (`sitting_id`,`user_id`);--> statement-breakpoint
CREATE TABLE `publication` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`sitting_id` text NOT NULL,
	`user_id` text NOT NULL,
	`earned` real NOT NULL,
	`possible` real NOT NULL,
	`attempt_ids` text NOT NULL,
	`preliminary` integer DEFAULT false NOT NULL,
	`marked` real,
	`waiting` integer DEFAULT 0 NOT NULL,
	`published_at` integer NOT NULL,
	`published_by` text NOT NULL,
	`withdrawn_at` integer,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `publication_sitting` ON `publication` (`sitting_id`,`user_id`,`id`);--> statement-breakpoint
CREATE INDEX `publication_user` ON `publication` (`user_id`);--> statement-breakpoint
CREATE TABLE `release_view` (
	`sitting_id` text NOT NULL,
	`user_id` text NOT NULL,
	`fact` text NOT NULL,
	`opened_at` integer NOT NULL,
	PRIMARY KEY(`sitting_id`, `user_id`, `fact`),
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `arrangement` (
	`sitting_id` text NOT NULL,
	`user_id` text NOT NULL,
	`extra_percent` integer DEFAULT 0 NOT NULL,
	`extra_minutes` integer DEFAULT 0 NOT NULL,
	`opens` integer,
	`last_start` integer,
	`due` integer,
	`closes` integer,
	`extra_attempts` integer DEFAULT 0 NOT NULL,
	`excused` integer DEFAULT false NOT NULL,
	`entry_code` text,
	`networks` text,
	`let_through` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`sitting_id`, `user_id`),
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `correction` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`version_id` text NOT NULL,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`by` text NOT NULL,
	`withdrawn_at` integer,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `question_version`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `correction_sitting` ON `correction` (`sitting_id`,`version_id`);--> statement-breakpoint
CREATE TABLE `pool_snapshot` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`taken_at` integer NOT NULL,
	`snapshot` text NOT NULL,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `pool_snapshot_sitting` ON `pool_snapshot` (`sitting_id`,`taken_at`);--> statement-breakpoint
CREATE TABLE `question_report` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`slot_id` text NOT NULL,
	`question_id` text NOT NULL,
	`version_id` text NOT NULL,
	`user_id` text NOT NULL,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`answer` text,
	`answered_at` integer,
	`answered_by` text,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`version_id`) REFERENCES `question_version`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `question_report_sitting` ON `question_report` (`sitting_id`,`version_id`);--> statement-breakpoint
CREATE INDEX `question_report_slot` ON `question_report` (`slot_id`,`user_id`);--> statement-breakpoint
CREATE TABLE `sitting` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`exam_id` text NOT NULL,
	`revision_id` text NOT NULL,
	`title` text NOT NULL,
	`state` text NOT NULL,
	`opens` integer,
	`last_start` integer,
	`due` integer,
	`closes` integer,
	`time_limit` integer,
	`full_time_once_started` integer DEFAULT false NOT NULL,
	`attempts_allowed` integer,
	`attempt_counts` text DEFAULT 'best' NOT NULL,
	`further` text,
	`next_task` text DEFAULT '' NOT NULL,
	`acknowledged` text,
	`release_plan` text NOT NULL,
	`self_publish` text,
	`bands` text,
	`completion` text,
	`scored` integer DEFAULT true NOT NULL,
	`counts` text DEFAULT 'score' NOT NULL,
	`anonymous` integer DEFAULT false NOT NULL,
	`created_by` text NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`exam_id`) REFERENCES `exam`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`revision_id`) REFERENCES `exam_revision`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `sitting_course` ON `sitting` (`course_id`,`opens`);--> statement-breakpoint
CREATE INDEX `sitting_exam` ON `sitting` (`exam_id`);--> statement-breakpoint
CREATE TABLE `sitting_audience` (
	`sitting_id` text NOT NULL,
	`kind` text NOT NULL,
	`ref_id` text NOT NULL,
	PRIMARY KEY(`sitting_id`, `kind`, `ref_id`),
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `sitting_note` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`sitting_id` text NOT NULL,
	`kind` text NOT NULL,
	`user_id` text,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `sitting_note_sitting` ON `sitting_note` (`sitting_id`,`id`);--> statement-breakpoint
CREATE VIRTUAL TABLE `question_search` USING fts5(name, words, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');
