CREATE TABLE `asset` (
	`project` text NOT NULL,
	`hash` text NOT NULL,
	`name` text NOT NULL,
	PRIMARY KEY(`project`, `hash`),
	FOREIGN KEY (`project`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`hash`) REFERENCES `blob`(`hash`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `blob` (
	`hash` text PRIMARY KEY NOT NULL,
	`bytes` blob NOT NULL
);
--> statement-breakpoint
CREATE TABLE `project` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`revision` integer NOT NULL,
	`document` text NOT NULL,
	`desk` text,
	`cover` blob,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer
);
--> statement-breakpoint
CREATE TABLE `tile` (
	`project` text NOT NULL,
	`surface` text NOT NULL,
	`idx` integer NOT NULL,
	`value` integer,
	`hash` text,
	PRIMARY KEY(`project`, `surface`, `idx`),
	FOREIGN KEY (`project`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`hash`) REFERENCES `blob`(`hash`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `tile_hash` ON `tile` (`hash`);