CREATE TABLE `past_tile` (
	`project` text NOT NULL,
	`surface` text NOT NULL,
	`idx` integer NOT NULL,
	`until` integer NOT NULL,
	`value` integer,
	`hash` text,
	`at` integer NOT NULL,
	PRIMARY KEY(`project`, `surface`, `idx`, `until`),
	FOREIGN KEY (`project`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`hash`) REFERENCES `blob`(`hash`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `past_tile_hash` ON `past_tile` (`hash`);--> statement-breakpoint
CREATE INDEX `past_tile_at` ON `past_tile` (`at`);--> statement-breakpoint
CREATE TABLE `revision` (
	`project` text NOT NULL,
	`revision` integer NOT NULL,
	`save` text NOT NULL,
	`content` text NOT NULL,
	`document` text NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`project`, `revision`),
	FOREIGN KEY (`project`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`document`) REFERENCES `blob`(`hash`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `revision_save` ON `revision` (`project`,`save`);--> statement-breakpoint
CREATE INDEX `revision_document` ON `revision` (`document`);--> statement-breakpoint
ALTER TABLE `project` ADD `origin` text;