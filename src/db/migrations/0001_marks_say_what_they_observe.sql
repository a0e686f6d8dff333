ALTER TABLE `mark` ADD `unobserved` text;--> statement-breakpoint
UPDATE `mark` SET `unobserved` = 'not-chosen', `reason` = '' WHERE `kind` = 'automatic' AND `reason` = 'not chosen';--> statement-breakpoint
UPDATE `mark` SET `unobserved` = 'everyone-earns', `reason` = (SELECT r.`reason` FROM `remark` r WHERE r.`id` = `mark`.`batch`)
WHERE `kind` = 'automatic' AND `batch` IN (SELECT r.`id` FROM `remark` r WHERE r.`policy` = 'everyone');
