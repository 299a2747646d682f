CREATE TABLE `assets` (
	`hash` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`kind` text NOT NULL,
	`bytes` integer NOT NULL,
	`sample_rate` integer NOT NULL,
	`channels` integer NOT NULL,
	`frames` integer NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `presets` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`tags` text NOT NULL,
	`search_text` text NOT NULL,
	`tempo` real NOT NULL,
	`stage_count` integer NOT NULL,
	`snapshot_count` integer NOT NULL,
	`document` text NOT NULL,
	`revision` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer
);
--> statement-breakpoint
CREATE INDEX `presets_updated` ON `presets` (`deleted_at`,`updated_at`);--> statement-breakpoint
CREATE TABLE `versions` (
	`preset_id` text NOT NULL,
	`number` integer NOT NULL,
	`kind` text NOT NULL,
	`note` text NOT NULL,
	`writer` text NOT NULL,
	`document` text NOT NULL,
	`revision` integer NOT NULL,
	`created_at` integer NOT NULL,
	PRIMARY KEY(`preset_id`, `number`),
	FOREIGN KEY (`preset_id`) REFERENCES `presets`(`id`) ON UPDATE no action ON DELETE cascade
);
