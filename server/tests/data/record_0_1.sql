/*M!999999\- enable the sandbox mode */ 

/*!40101 SET @OLD_CHARACTER_SET_CLIENT=@@CHARACTER_SET_CLIENT */;
/*!40101 SET @OLD_CHARACTER_SET_RESULTS=@@CHARACTER_SET_RESULTS */;
/*!40101 SET @OLD_COLLATION_CONNECTION=@@COLLATION_CONNECTION */;
/*!40101 SET NAMES utf8mb4 */;
/*!40103 SET @OLD_TIME_ZONE=@@TIME_ZONE */;
/*!40103 SET TIME_ZONE='+00:00' */;
/*!40014 SET @OLD_UNIQUE_CHECKS=@@UNIQUE_CHECKS, UNIQUE_CHECKS=0 */;
/*!40014 SET @OLD_FOREIGN_KEY_CHECKS=@@FOREIGN_KEY_CHECKS, FOREIGN_KEY_CHECKS=0 */;
/*!40101 SET @OLD_SQL_MODE=@@SQL_MODE, SQL_MODE='NO_AUTO_VALUE_ON_ZERO' */;
/*!40111 SET @OLD_SQL_NOTES=@@SQL_NOTES, SQL_NOTES=0 */;
DROP TABLE IF EXISTS `auth_group`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `auth_group` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `name` varchar(150) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `name` (`name`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `auth_group` DISABLE KEYS */;
/*!40000 ALTER TABLE `auth_group` ENABLE KEYS */;
DROP TABLE IF EXISTS `auth_group_permissions`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `auth_group_permissions` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `group_id` int(11) NOT NULL,
  `permission_id` int(11) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `auth_group_permissions_group_id_permission_id_0cd325b0_uniq` (`group_id`,`permission_id`),
  KEY `auth_group_permissio_permission_id_84c5c92e_fk_auth_perm` (`permission_id`),
  CONSTRAINT `auth_group_permissio_permission_id_84c5c92e_fk_auth_perm` FOREIGN KEY (`permission_id`) REFERENCES `auth_permission` (`id`),
  CONSTRAINT `auth_group_permissions_group_id_b120cbf9_fk_auth_group_id` FOREIGN KEY (`group_id`) REFERENCES `auth_group` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `auth_group_permissions` DISABLE KEYS */;
/*!40000 ALTER TABLE `auth_group_permissions` ENABLE KEYS */;
DROP TABLE IF EXISTS `auth_permission`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `auth_permission` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `name` varchar(255) NOT NULL,
  `content_type_id` int(11) NOT NULL,
  `codename` varchar(100) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `auth_permission_content_type_id_codename_01ab375a_uniq` (`content_type_id`,`codename`),
  CONSTRAINT `auth_permission_content_type_id_2f476e4b_fk_django_co` FOREIGN KEY (`content_type_id`) REFERENCES `django_content_type` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=153 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `auth_permission` DISABLE KEYS */;
INSERT INTO `auth_permission` VALUES (1,'Can add permission',1,'add_permission');
INSERT INTO `auth_permission` VALUES (2,'Can change permission',1,'change_permission');
INSERT INTO `auth_permission` VALUES (3,'Can delete permission',1,'delete_permission');
INSERT INTO `auth_permission` VALUES (4,'Can view permission',1,'view_permission');
INSERT INTO `auth_permission` VALUES (5,'Can add group',2,'add_group');
INSERT INTO `auth_permission` VALUES (6,'Can change group',2,'change_group');
INSERT INTO `auth_permission` VALUES (7,'Can delete group',2,'delete_group');
INSERT INTO `auth_permission` VALUES (8,'Can view group',2,'view_group');
INSERT INTO `auth_permission` VALUES (9,'Can add content type',3,'add_contenttype');
INSERT INTO `auth_permission` VALUES (10,'Can change content type',3,'change_contenttype');
INSERT INTO `auth_permission` VALUES (11,'Can delete content type',3,'delete_contenttype');
INSERT INTO `auth_permission` VALUES (12,'Can view content type',3,'view_contenttype');
INSERT INTO `auth_permission` VALUES (13,'Can add session',4,'add_session');
INSERT INTO `auth_permission` VALUES (14,'Can change session',4,'change_session');
INSERT INTO `auth_permission` VALUES (15,'Can delete session',4,'delete_session');
INSERT INTO `auth_permission` VALUES (16,'Can view session',4,'view_session');
INSERT INTO `auth_permission` VALUES (17,'Can add Token',5,'add_token');
INSERT INTO `auth_permission` VALUES (18,'Can change Token',5,'change_token');
INSERT INTO `auth_permission` VALUES (19,'Can delete Token',5,'delete_token');
INSERT INTO `auth_permission` VALUES (20,'Can view Token',5,'view_token');
INSERT INTO `auth_permission` VALUES (21,'Can add Token',6,'add_tokenproxy');
INSERT INTO `auth_permission` VALUES (22,'Can change Token',6,'change_tokenproxy');
INSERT INTO `auth_permission` VALUES (23,'Can delete Token',6,'delete_tokenproxy');
INSERT INTO `auth_permission` VALUES (24,'Can view Token',6,'view_tokenproxy');
INSERT INTO `auth_permission` VALUES (25,'Can add access attempt',7,'add_accessattempt');
INSERT INTO `auth_permission` VALUES (26,'Can change access attempt',7,'change_accessattempt');
INSERT INTO `auth_permission` VALUES (27,'Can delete access attempt',7,'delete_accessattempt');
INSERT INTO `auth_permission` VALUES (28,'Can view access attempt',7,'view_accessattempt');
INSERT INTO `auth_permission` VALUES (29,'Can add access log',8,'add_accesslog');
INSERT INTO `auth_permission` VALUES (30,'Can change access log',8,'change_accesslog');
INSERT INTO `auth_permission` VALUES (31,'Can delete access log',8,'delete_accesslog');
INSERT INTO `auth_permission` VALUES (32,'Can view access log',8,'view_accesslog');
INSERT INTO `auth_permission` VALUES (33,'Can add access failure',9,'add_accessfailurelog');
INSERT INTO `auth_permission` VALUES (34,'Can change access failure',9,'change_accessfailurelog');
INSERT INTO `auth_permission` VALUES (35,'Can delete access failure',9,'delete_accessfailurelog');
INSERT INTO `auth_permission` VALUES (36,'Can view access failure',9,'view_accessfailurelog');
INSERT INTO `auth_permission` VALUES (37,'Can add access attempt expiration',10,'add_accessattemptexpiration');
INSERT INTO `auth_permission` VALUES (38,'Can change access attempt expiration',10,'change_accessattemptexpiration');
INSERT INTO `auth_permission` VALUES (39,'Can delete access attempt expiration',10,'delete_accessattemptexpiration');
INSERT INTO `auth_permission` VALUES (40,'Can view access attempt expiration',10,'view_accessattemptexpiration');
INSERT INTO `auth_permission` VALUES (41,'Can add Task Result',11,'add_dbtaskresult');
INSERT INTO `auth_permission` VALUES (42,'Can change Task Result',11,'change_dbtaskresult');
INSERT INTO `auth_permission` VALUES (43,'Can delete Task Result',11,'delete_dbtaskresult');
INSERT INTO `auth_permission` VALUES (44,'Can view Task Result',11,'view_dbtaskresult');
INSERT INTO `auth_permission` VALUES (45,'Can add user',12,'add_person');
INSERT INTO `auth_permission` VALUES (46,'Can change user',12,'change_person');
INSERT INTO `auth_permission` VALUES (47,'Can delete user',12,'delete_person');
INSERT INTO `auth_permission` VALUES (48,'Can view user',12,'view_person');
INSERT INTO `auth_permission` VALUES (49,'Can add membership',13,'add_membership');
INSERT INTO `auth_permission` VALUES (50,'Can change membership',13,'change_membership');
INSERT INTO `auth_permission` VALUES (51,'Can delete membership',13,'delete_membership');
INSERT INTO `auth_permission` VALUES (52,'Can view membership',13,'view_membership');
INSERT INTO `auth_permission` VALUES (53,'Can add programme',14,'add_programme');
INSERT INTO `auth_permission` VALUES (54,'Can change programme',14,'change_programme');
INSERT INTO `auth_permission` VALUES (55,'Can delete programme',14,'delete_programme');
INSERT INTO `auth_permission` VALUES (56,'Can view programme',14,'view_programme');
INSERT INTO `auth_permission` VALUES (57,'Can add change',15,'add_change');
INSERT INTO `auth_permission` VALUES (58,'Can change change',15,'change_change');
INSERT INTO `auth_permission` VALUES (59,'Can delete change',15,'delete_change');
INSERT INTO `auth_permission` VALUES (60,'Can view change',15,'view_change');
INSERT INTO `auth_permission` VALUES (61,'Can add programme species',16,'add_programmespecies');
INSERT INTO `auth_permission` VALUES (62,'Can change programme species',16,'change_programmespecies');
INSERT INTO `auth_permission` VALUES (63,'Can delete programme species',16,'delete_programmespecies');
INSERT INTO `auth_permission` VALUES (64,'Can view programme species',16,'view_programmespecies');
INSERT INTO `auth_permission` VALUES (65,'Can add water',17,'add_water');
INSERT INTO `auth_permission` VALUES (66,'Can change water',17,'change_water');
INSERT INTO `auth_permission` VALUES (67,'Can delete water',17,'delete_water');
INSERT INTO `auth_permission` VALUES (68,'Can view water',17,'view_water');
INSERT INTO `auth_permission` VALUES (69,'Can add site',18,'add_site');
INSERT INTO `auth_permission` VALUES (70,'Can change site',18,'change_site');
INSERT INTO `auth_permission` VALUES (71,'Can delete site',18,'delete_site');
INSERT INTO `auth_permission` VALUES (72,'Can view site',18,'view_site');
INSERT INTO `auth_permission` VALUES (73,'Can add job',19,'add_job');
INSERT INTO `auth_permission` VALUES (74,'Can change job',19,'change_job');
INSERT INTO `auth_permission` VALUES (75,'Can delete job',19,'delete_job');
INSERT INTO `auth_permission` VALUES (76,'Can view job',19,'view_job');
INSERT INTO `auth_permission` VALUES (77,'Can add fish',20,'add_fish');
INSERT INTO `auth_permission` VALUES (78,'Can change fish',20,'change_fish');
INSERT INTO `auth_permission` VALUES (79,'Can delete fish',20,'delete_fish');
INSERT INTO `auth_permission` VALUES (80,'Can view fish',20,'view_fish');
INSERT INTO `auth_permission` VALUES (81,'Can add tag',21,'add_tag');
INSERT INTO `auth_permission` VALUES (82,'Can change tag',21,'change_tag');
INSERT INTO `auth_permission` VALUES (83,'Can delete tag',21,'delete_tag');
INSERT INTO `auth_permission` VALUES (84,'Can view tag',21,'view_tag');
INSERT INTO `auth_permission` VALUES (85,'Can add placement',22,'add_placement');
INSERT INTO `auth_permission` VALUES (86,'Can change placement',22,'change_placement');
INSERT INTO `auth_permission` VALUES (87,'Can delete placement',22,'delete_placement');
INSERT INTO `auth_permission` VALUES (88,'Can view placement',22,'view_placement');
INSERT INTO `auth_permission` VALUES (89,'Can add capture',23,'add_capture');
INSERT INTO `auth_permission` VALUES (90,'Can change capture',23,'change_capture');
INSERT INTO `auth_permission` VALUES (91,'Can delete capture',23,'delete_capture');
INSERT INTO `auth_permission` VALUES (92,'Can view capture',23,'view_capture');
INSERT INTO `auth_permission` VALUES (93,'Can add outing',24,'add_outing');
INSERT INTO `auth_permission` VALUES (94,'Can change outing',24,'change_outing');
INSERT INTO `auth_permission` VALUES (95,'Can delete outing',24,'delete_outing');
INSERT INTO `auth_permission` VALUES (96,'Can view outing',24,'view_outing');
INSERT INTO `auth_permission` VALUES (97,'Can add run',25,'add_run');
INSERT INTO `auth_permission` VALUES (98,'Can change run',25,'change_run');
INSERT INTO `auth_permission` VALUES (99,'Can delete run',25,'delete_run');
INSERT INTO `auth_permission` VALUES (100,'Can view run',25,'view_run');
INSERT INTO `auth_permission` VALUES (101,'Can add water reading',26,'add_waterreading');
INSERT INTO `auth_permission` VALUES (102,'Can change water reading',26,'change_waterreading');
INSERT INTO `auth_permission` VALUES (103,'Can delete water reading',26,'delete_waterreading');
INSERT INTO `auth_permission` VALUES (104,'Can view water reading',26,'view_waterreading');
INSERT INTO `auth_permission` VALUES (105,'Can add release',27,'add_release');
INSERT INTO `auth_permission` VALUES (106,'Can change release',27,'change_release');
INSERT INTO `auth_permission` VALUES (107,'Can delete release',27,'delete_release');
INSERT INTO `auth_permission` VALUES (108,'Can view release',27,'view_release');
INSERT INTO `auth_permission` VALUES (109,'Can add target',28,'add_target');
INSERT INTO `auth_permission` VALUES (110,'Can change target',28,'change_target');
INSERT INTO `auth_permission` VALUES (111,'Can delete target',28,'delete_target');
INSERT INTO `auth_permission` VALUES (112,'Can view target',28,'view_target');
INSERT INTO `auth_permission` VALUES (113,'Can add signature',29,'add_signature');
INSERT INTO `auth_permission` VALUES (114,'Can change signature',29,'change_signature');
INSERT INTO `auth_permission` VALUES (115,'Can delete signature',29,'delete_signature');
INSERT INTO `auth_permission` VALUES (116,'Can view signature',29,'view_signature');
INSERT INTO `auth_permission` VALUES (117,'Can add kept finding',30,'add_keptfinding');
INSERT INTO `auth_permission` VALUES (118,'Can change kept finding',30,'change_keptfinding');
INSERT INTO `auth_permission` VALUES (119,'Can delete kept finding',30,'delete_keptfinding');
INSERT INTO `auth_permission` VALUES (120,'Can view kept finding',30,'view_keptfinding');
INSERT INTO `auth_permission` VALUES (121,'Can add import',31,'add_import');
INSERT INTO `auth_permission` VALUES (122,'Can change import',31,'change_import');
INSERT INTO `auth_permission` VALUES (123,'Can delete import',31,'delete_import');
INSERT INTO `auth_permission` VALUES (124,'Can view import',31,'view_import');
INSERT INTO `auth_permission` VALUES (125,'Can add paper',32,'add_paper');
INSERT INTO `auth_permission` VALUES (126,'Can change paper',32,'change_paper');
INSERT INTO `auth_permission` VALUES (127,'Can delete paper',32,'delete_paper');
INSERT INTO `auth_permission` VALUES (128,'Can view paper',32,'view_paper');
INSERT INTO `auth_permission` VALUES (129,'Can add season',33,'add_season');
INSERT INTO `auth_permission` VALUES (130,'Can change season',33,'change_season');
INSERT INTO `auth_permission` VALUES (131,'Can delete season',33,'delete_season');
INSERT INTO `auth_permission` VALUES (132,'Can view season',33,'view_season');
INSERT INTO `auth_permission` VALUES (133,'Can add survey',34,'add_survey');
INSERT INTO `auth_permission` VALUES (134,'Can change survey',34,'change_survey');
INSERT INTO `auth_permission` VALUES (135,'Can delete survey',34,'delete_survey');
INSERT INTO `auth_permission` VALUES (136,'Can view survey',34,'view_survey');
INSERT INTO `auth_permission` VALUES (137,'Can add rehearsing',35,'add_rehearsing');
INSERT INTO `auth_permission` VALUES (138,'Can change rehearsing',35,'change_rehearsing');
INSERT INTO `auth_permission` VALUES (139,'Can delete rehearsing',35,'delete_rehearsing');
INSERT INTO `auth_permission` VALUES (140,'Can view rehearsing',35,'view_rehearsing');
INSERT INTO `auth_permission` VALUES (141,'Can add planned site',36,'add_plannedsite');
INSERT INTO `auth_permission` VALUES (142,'Can change planned site',36,'change_plannedsite');
INSERT INTO `auth_permission` VALUES (143,'Can delete planned site',36,'delete_plannedsite');
INSERT INTO `auth_permission` VALUES (144,'Can view planned site',36,'view_plannedsite');
INSERT INTO `auth_permission` VALUES (145,'Can add unit',37,'add_unit');
INSERT INTO `auth_permission` VALUES (146,'Can change unit',37,'change_unit');
INSERT INTO `auth_permission` VALUES (147,'Can delete unit',37,'delete_unit');
INSERT INTO `auth_permission` VALUES (148,'Can view unit',37,'view_unit');
INSERT INTO `auth_permission` VALUES (149,'Can add zone',38,'add_zone');
INSERT INTO `auth_permission` VALUES (150,'Can change zone',38,'change_zone');
INSERT INTO `auth_permission` VALUES (151,'Can delete zone',38,'delete_zone');
INSERT INTO `auth_permission` VALUES (152,'Can view zone',38,'view_zone');
/*!40000 ALTER TABLE `auth_permission` ENABLE KEYS */;
DROP TABLE IF EXISTS `authtoken_token`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `authtoken_token` (
  `key` varchar(40) NOT NULL,
  `created` datetime(6) NOT NULL,
  `user_id` uuid NOT NULL,
  PRIMARY KEY (`key`),
  UNIQUE KEY `user_id` (`user_id`),
  CONSTRAINT `authtoken_token_user_id_35299eff_fk_programmes_person_id` FOREIGN KEY (`user_id`) REFERENCES `programmes_person` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `authtoken_token` DISABLE KEYS */;
/*!40000 ALTER TABLE `authtoken_token` ENABLE KEYS */;
DROP TABLE IF EXISTS `axes_accessattempt`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `axes_accessattempt` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `user_agent` varchar(255) NOT NULL,
  `ip_address` char(39) DEFAULT NULL,
  `username` varchar(255) DEFAULT NULL,
  `http_accept` varchar(1025) NOT NULL,
  `path_info` varchar(255) NOT NULL,
  `attempt_time` datetime(6) NOT NULL,
  `get_data` longtext NOT NULL,
  `post_data` longtext NOT NULL,
  `failures_since_start` int(10) unsigned NOT NULL CHECK (`failures_since_start` >= 0),
  PRIMARY KEY (`id`),
  UNIQUE KEY `axes_accessattempt_username_ip_address_user_agent_8ea22282_uniq` (`username`,`ip_address`,`user_agent`),
  KEY `axes_accessattempt_ip_address_10922d9c` (`ip_address`),
  KEY `axes_accessattempt_user_agent_ad89678b` (`user_agent`),
  KEY `axes_accessattempt_username_3f2d4ca0` (`username`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `axes_accessattempt` DISABLE KEYS */;
/*!40000 ALTER TABLE `axes_accessattempt` ENABLE KEYS */;
DROP TABLE IF EXISTS `axes_accessattemptexpiration`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `axes_accessattemptexpiration` (
  `access_attempt_id` int(11) NOT NULL,
  `expires_at` datetime(6) NOT NULL,
  PRIMARY KEY (`access_attempt_id`),
  CONSTRAINT `axes_accessattemptex_access_attempt_id_6b73a47a_fk_axes_acce` FOREIGN KEY (`access_attempt_id`) REFERENCES `axes_accessattempt` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `axes_accessattemptexpiration` DISABLE KEYS */;
/*!40000 ALTER TABLE `axes_accessattemptexpiration` ENABLE KEYS */;
DROP TABLE IF EXISTS `axes_accessfailurelog`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `axes_accessfailurelog` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `user_agent` varchar(255) NOT NULL,
  `ip_address` char(39) DEFAULT NULL,
  `username` varchar(255) DEFAULT NULL,
  `http_accept` varchar(1025) NOT NULL,
  `path_info` varchar(255) NOT NULL,
  `attempt_time` datetime(6) NOT NULL,
  `locked_out` tinyint(1) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `axes_accessfailurelog_user_agent_ea145dda` (`user_agent`),
  KEY `axes_accessfailurelog_ip_address_2e9f5a7f` (`ip_address`),
  KEY `axes_accessfailurelog_username_a8b7e8a4` (`username`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `axes_accessfailurelog` DISABLE KEYS */;
/*!40000 ALTER TABLE `axes_accessfailurelog` ENABLE KEYS */;
DROP TABLE IF EXISTS `axes_accesslog`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `axes_accesslog` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `user_agent` varchar(255) NOT NULL,
  `ip_address` char(39) DEFAULT NULL,
  `username` varchar(255) DEFAULT NULL,
  `http_accept` varchar(1025) NOT NULL,
  `path_info` varchar(255) NOT NULL,
  `attempt_time` datetime(6) NOT NULL,
  `logout_time` datetime(6) DEFAULT NULL,
  `session_hash` varchar(64) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `axes_accesslog_ip_address_86b417e5` (`ip_address`),
  KEY `axes_accesslog_user_agent_0e659004` (`user_agent`),
  KEY `axes_accesslog_username_df93064b` (`username`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `axes_accesslog` DISABLE KEYS */;
/*!40000 ALTER TABLE `axes_accesslog` ENABLE KEYS */;
DROP TABLE IF EXISTS `deck_capture`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `deck_capture` (
  `id` uuid NOT NULL,
  `device_time` datetime(6) NOT NULL,
  `server_time` datetime(6) NOT NULL,
  `deleted_at` datetime(6) DEFAULT NULL,
  `species` varchar(8) NOT NULL,
  `count` int(10) unsigned NOT NULL CHECK (`count` >= 0),
  `length_mm` double DEFAULT NULL,
  `length_type` varchar(4) NOT NULL,
  `length_basis` varchar(9) NOT NULL,
  `length_text` varchar(40) NOT NULL,
  `mass_g` double DEFAULT NULL,
  `mass_basis` varchar(9) NOT NULL,
  `mass_text` varchar(40) NOT NULL,
  `sex` varchar(1) NOT NULL,
  `sex_evidence` varchar(20) NOT NULL,
  `note` varchar(200) NOT NULL,
  `questions` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`questions`)),
  `programme_id` uuid NOT NULL,
  `recorder_id` uuid NOT NULL,
  `run_id` uuid NOT NULL,
  `fish_id` uuid DEFAULT NULL,
  `scan_text` varchar(40) NOT NULL,
  `scanned` varchar(8) NOT NULL,
  `brought_in_id` uuid DEFAULT NULL,
  PRIMARY KEY (`id`),
  KEY `deck_capture_recorder_id_f3cf935a_fk_programmes_person_id` (`recorder_id`),
  KEY `deck_capture_run_id_a81a36a1_fk_deck_run_id` (`run_id`),
  KEY `capture_finding` (`programme_id`,`species`,`run_id`,`deleted_at`,`length_mm`,`length_basis`,`length_type`,`mass_g`,`mass_basis`,`sex`),
  KEY `deck_capture_fish_id_665e71f8_fk_tags_fish_id` (`fish_id`),
  KEY `deck_capture_brought_in_id_f02da65a_fk_records_import_id` (`brought_in_id`),
  KEY `capture_by_time` (`programme_id`,`deleted_at`,`device_time`),
  KEY `capture_by_length` (`programme_id`,`deleted_at`,`length_mm`),
  KEY `capture_by_mass` (`programme_id`,`deleted_at`,`mass_g`),
  CONSTRAINT `deck_capture_brought_in_id_f02da65a_fk_records_import_id` FOREIGN KEY (`brought_in_id`) REFERENCES `records_import` (`id`),
  CONSTRAINT `deck_capture_fish_id_665e71f8_fk_tags_fish_id` FOREIGN KEY (`fish_id`) REFERENCES `tags_fish` (`id`),
  CONSTRAINT `deck_capture_programme_id_fc8b26d6_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`),
  CONSTRAINT `deck_capture_recorder_id_f3cf935a_fk_programmes_person_id` FOREIGN KEY (`recorder_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `deck_capture_run_id_a81a36a1_fk_deck_run_id` FOREIGN KEY (`run_id`) REFERENCES `deck_run` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `deck_capture` DISABLE KEYS */;
INSERT INTO `deck_capture` VALUES ('01900000-0000-7000-8000-000000000019','2026-10-12 20:02:00.000000','2026-11-26 02:40:08.179888',NULL,'wal',1,469.9,'TL','measured','18 1/2',1088.62,'measured','2.4','f','pressure','','[]','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000018','01a215b9-8009-7454-975a-7afebdaf5aef','','none',NULL);
INSERT INTO `deck_capture` VALUES ('01900000-0000-7000-8000-000000000020','2026-10-12 20:03:00.000000','2026-11-26 02:40:08.228337','2026-10-12 20:09:00.000000','wal',1,469,'TL','estimated','~469 mm',1120,'measured','1120 g','u','','scar','[]','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000018',NULL,'','',NULL);
INSERT INTO `deck_capture` VALUES ('01900000-0000-7000-8000-000000000021','2026-10-12 20:04:00.000000','2026-11-26 02:40:08.228337',NULL,'wal',1,438.1,'FL','measured','17 1/4',NULL,'','','m','pressure','','[]','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000018',NULL,'','',NULL);
INSERT INTO `deck_capture` VALUES ('01900000-0000-7000-8000-000000000022','2026-10-12 20:05:00.000000','2026-11-26 02:40:08.228337',NULL,'yep',14,NULL,'','','',NULL,'','','u','','','[]','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000018',NULL,'','',NULL);
INSERT INTO `deck_capture` VALUES ('01900000-0000-7000-8000-000000000023','2026-10-12 20:06:00.000000','2026-11-26 02:40:08.228337',NULL,'wal',1,476.2,'TL','measured','18 3/4',NULL,'','','u','','','[]','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000018','01a215b9-8009-7454-975a-7afebdaf5aef','pit 999000000000001','known',NULL);
INSERT INTO `deck_capture` VALUES ('01900000-0000-7000-8000-000000000024','2026-10-12 20:07:00.000000','2026-11-26 02:40:08.228337',NULL,'wal',1,304.8,'TL','measured','12',4082.33,'measured','9','u','','','[{\"code\": \"mass_far\", \"answer\": \"kept as called\"}, {\"code\": \"mass_far_off\", \"answer\": \"not asked\"}]','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000018',NULL,'tbar W9','foreign',NULL);
INSERT INTO `deck_capture` VALUES ('598fb378-a3b5-5dbb-8e72-63474762ce4a','2025-06-01 12:00:00.000000','2026-11-26 02:40:08.679172',NULL,'wal',1,431,'TL','measured','431 mm',802,'measured','802 g','u','','','[]','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000005','01a215b9-81f0-7d04-8386-40db3c74651e','01a215b9-81f1-7fe5-8dca-4161ff8d46cb','pit 999000000000002','known','01a215b9-81d7-7b8c-a385-b06b8dce4f77');
INSERT INTO `deck_capture` VALUES ('a1e80cee-96b7-5e3e-8003-66e269aca876','2025-06-02 12:00:00.000000','2026-11-26 02:40:08.679172',NULL,'wal',1,440,'TL','measured','440 mm',850,'measured','850 g','u','','','[]','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000005','01a215b9-81f3-7a1d-be30-889c350ebbf6','01a215b9-81f4-74b2-b2c6-72270a40e7cf','pit 999000000000777','known','01a215b9-81d7-7b8c-a385-b06b8dce4f77');
/*!40000 ALTER TABLE `deck_capture` ENABLE KEYS */;
DROP TABLE IF EXISTS `deck_outing`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `deck_outing` (
  `id` uuid NOT NULL,
  `name` varchar(120) NOT NULL,
  `date` date NOT NULL,
  `gear` varchar(24) NOT NULL,
  `state` varchar(8) NOT NULL,
  `length_unit` varchar(2) NOT NULL,
  `mass_unit` varchar(2) NOT NULL,
  `server_time` datetime(6) NOT NULL,
  `programme_id` uuid NOT NULL,
  `water_id` uuid NOT NULL,
  `checklists` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`checklists`)),
  `orders` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`orders`)),
  PRIMARY KEY (`id`),
  KEY `deck_outing_water_id_38dda7cf_fk_programmes_water_id` (`water_id`),
  KEY `deck_outing_program_31341b_idx` (`programme_id`,`date`),
  CONSTRAINT `deck_outing_programme_id_d4d69441_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`),
  CONSTRAINT `deck_outing_water_id_38dda7cf_fk_programmes_water_id` FOREIGN KEY (`water_id`) REFERENCES `programmes_water` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `deck_outing` DISABLE KEYS */;
INSERT INTO `deck_outing` VALUES ('01900000-0000-7000-8000-000000000017','Tonight','2026-10-12','boat_electrofishing','open','in','lb','2026-11-26 02:40:08.145394','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000009','[\"electrofishing\", \"boat\", \"night\", \"lifting\"]','{}');
INSERT INTO `deck_outing` VALUES ('01a215b9-80b6-7deb-8863-73d0f5e7d4d4','Spring, 10 Apr','2026-04-10','boat_electrofishing','open','mm','g','2026-11-26 02:40:08.378044','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000009','[\"electrofishing\", \"boat\", \"night\", \"lifting\", \"dam\"]','{\"survey\": \"Spring\", \"lines\": [\"Live well: at most 12 large fish or 60 g/L, oxygen 6 mg/L or more, within 3 C of the water, 30 min.\", \"Out of water: goal under 60 s, never over 120 s at a time.\", \"Bath: still within 3 min; 10 min means a wrong dose.\", \"Recovery: upright within 5 min; look at the fish at 10.\", \"No settings from the plan: Enter a unit with its limits first; the settings are held against them.\", \"Keep clear of Weir: km 9.00 to 9.40.\", \"Electricity and water kill. This guides trained people; local code, permit and the licensed leader decide. Never alone; dead-man switch manned; stop for people, animals, thunder, rain, a leak.\"], \"electro\": null, \"well\": {\"litres\": 250.0, \"most_fish\": 12, \"most_g\": 15000.0}, \"mark_from_mm\": null}');
INSERT INTO `deck_outing` VALUES ('01a215b9-81ef-76ed-85b5-cf21fb72bb22','Ketterwick River, boat electrofishing','2025-06-01','boat_electrofishing','closed','mm','g','2026-11-26 02:40:08.688156','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000009','[]','{}');
INSERT INTO `deck_outing` VALUES ('01a215b9-81f2-78bd-8b91-25ee6c7b51fb','Ketterwick River, boat electrofishing','2025-06-02','boat_electrofishing','closed','mm','g','2026-11-26 02:40:08.688512','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000009','[]','{}');
/*!40000 ALTER TABLE `deck_outing` ENABLE KEYS */;
DROP TABLE IF EXISTS `deck_release`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `deck_release` (
  `id` uuid NOT NULL,
  `device_time` datetime(6) NOT NULL,
  `server_time` datetime(6) NOT NULL,
  `deleted_at` datetime(6) DEFAULT NULL,
  `code` varchar(8) NOT NULL,
  `capture_id` uuid NOT NULL,
  `recorder_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `capture_id` (`capture_id`),
  KEY `deck_release_recorder_id_7e7310c0_fk_programmes_person_id` (`recorder_id`),
  CONSTRAINT `deck_release_capture_id_b7ad046c_fk_deck_capture_id` FOREIGN KEY (`capture_id`) REFERENCES `deck_capture` (`id`),
  CONSTRAINT `deck_release_recorder_id_7e7310c0_fk_programmes_person_id` FOREIGN KEY (`recorder_id`) REFERENCES `programmes_person` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `deck_release` DISABLE KEYS */;
INSERT INTO `deck_release` VALUES ('dd1ec2ef-2489-550d-8e31-b2bf06ae6867','2026-10-12 20:10:00.000000','2026-11-26 02:40:08.277856',NULL,'alive','01900000-0000-7000-8000-000000000021','01900000-0000-7000-8000-000000000007');
INSERT INTO `deck_release` VALUES ('423a68f5-a958-5b37-bdc0-f1887742594c','2026-10-12 20:10:00.000000','2026-11-26 02:40:08.276858',NULL,'alive','01900000-0000-7000-8000-000000000019','01900000-0000-7000-8000-000000000007');
/*!40000 ALTER TABLE `deck_release` ENABLE KEYS */;
DROP TABLE IF EXISTS `deck_run`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `deck_run` (
  `id` uuid NOT NULL,
  `device_time` datetime(6) NOT NULL,
  `server_time` datetime(6) NOT NULL,
  `deleted_at` datetime(6) DEFAULT NULL,
  `number` smallint(5) unsigned NOT NULL CHECK (`number` >= 0),
  `gear` varchar(24) NOT NULL,
  `volts` double DEFAULT NULL,
  `amps` double DEFAULT NULL,
  `pulse_hz` double DEFAULT NULL,
  `pulse_width_ms` double DEFAULT NULL,
  `current_on_s` double NOT NULL,
  `started_at` datetime(6) NOT NULL,
  `ended_at` datetime(6) DEFAULT NULL,
  `outing_id` uuid NOT NULL,
  `recorder_id` uuid NOT NULL,
  `site_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `deck_run_outing_id_8789ca14_fk_deck_outing_id` (`outing_id`),
  KEY `deck_run_recorder_id_2ecf6273_fk_programmes_person_id` (`recorder_id`),
  KEY `deck_run_site_id_8fba4365_fk_programmes_site_id` (`site_id`),
  CONSTRAINT `deck_run_outing_id_8789ca14_fk_deck_outing_id` FOREIGN KEY (`outing_id`) REFERENCES `deck_outing` (`id`),
  CONSTRAINT `deck_run_recorder_id_2ecf6273_fk_programmes_person_id` FOREIGN KEY (`recorder_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `deck_run_site_id_8fba4365_fk_programmes_site_id` FOREIGN KEY (`site_id`) REFERENCES `programmes_site` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `deck_run` DISABLE KEYS */;
INSERT INTO `deck_run` VALUES ('01900000-0000-7000-8000-000000000018','2026-10-12 20:00:00.000000','2026-11-26 02:40:08.159114',NULL,1,'boat_electrofishing',200,NULL,NULL,NULL,0,'2026-10-12 20:00:00.000000',NULL,'01900000-0000-7000-8000-000000000017','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000010');
INSERT INTO `deck_run` VALUES ('01a215b9-81f0-7d04-8386-40db3c74651e','2025-06-01 12:00:00.000000','2026-11-26 02:40:08.688245',NULL,1,'boat_electrofishing',NULL,NULL,NULL,NULL,0,'2025-06-01 12:00:00.000000','2025-06-01 12:00:00.000000','01a215b9-81ef-76ed-85b5-cf21fb72bb22','01900000-0000-7000-8000-000000000005','01900000-0000-7000-8000-000000000010');
INSERT INTO `deck_run` VALUES ('01a215b9-81f3-7a1d-be30-889c350ebbf6','2025-06-02 12:00:00.000000','2026-11-26 02:40:08.688583',NULL,1,'boat_electrofishing',NULL,NULL,NULL,NULL,0,'2025-06-02 12:00:00.000000','2025-06-02 12:00:00.000000','01a215b9-81f2-78bd-8b91-25ee6c7b51fb','01900000-0000-7000-8000-000000000005','01900000-0000-7000-8000-000000000010');
/*!40000 ALTER TABLE `deck_run` ENABLE KEYS */;
DROP TABLE IF EXISTS `deck_signature`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `deck_signature` (
  `id` uuid NOT NULL,
  `checklist` varchar(20) NOT NULL,
  `version` smallint(5) unsigned NOT NULL CHECK (`version` >= 0),
  `lines` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`lines`)),
  `name` varchar(80) NOT NULL,
  `note` varchar(300) NOT NULL,
  `at` datetime(6) NOT NULL,
  `outing_id` uuid NOT NULL,
  `person_id` uuid NOT NULL,
  `signed` tinyint(1) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `signed_once` (`outing_id`,`checklist`),
  KEY `plan_signature_person_id_121512dc_fk_programmes_person_id` (`person_id`),
  CONSTRAINT `plan_signature_outing_id_8ceb2ea5_fk_deck_outing_id` FOREIGN KEY (`outing_id`) REFERENCES `deck_outing` (`id`),
  CONSTRAINT `plan_signature_person_id_121512dc_fk_programmes_person_id` FOREIGN KEY (`person_id`) REFERENCES `programmes_person` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `deck_signature` DISABLE KEYS */;
INSERT INTO `deck_signature` VALUES ('01900000-0000-7000-8000-000000000026','boat',1,'[\"Life jackets worn by all; weight within the boat\'s plate.\", \"Fuel, fire extinguisher, bilge, light, radio or telephone tried.\", \"Engine and generator off to refuel; hearing protection by the generator.\", \"Somebody ashore knows where we go and when we are back.\"]','Crew','','2026-10-12 20:01:00.000000','01900000-0000-7000-8000-000000000017','01900000-0000-7000-8000-000000000007',1);
/*!40000 ALTER TABLE `deck_signature` ENABLE KEYS */;
DROP TABLE IF EXISTS `deck_target`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `deck_target` (
  `id` uuid NOT NULL,
  `species` varchar(8) NOT NULL,
  `what` varchar(8) NOT NULL,
  `wanted` int(10) unsigned NOT NULL CHECK (`wanted` >= 0),
  `from_mm` double DEFAULT NULL,
  `outing_id` uuid NOT NULL,
  `reach` varchar(60) NOT NULL,
  PRIMARY KEY (`id`),
  KEY `deck_target_outing_id_f32a589e_fk_deck_outing_id` (`outing_id`),
  CONSTRAINT `deck_target_outing_id_f32a589e_fk_deck_outing_id` FOREIGN KEY (`outing_id`) REFERENCES `deck_outing` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `deck_target` DISABLE KEYS */;
/*!40000 ALTER TABLE `deck_target` ENABLE KEYS */;
DROP TABLE IF EXISTS `deck_waterreading`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `deck_waterreading` (
  `id` uuid NOT NULL,
  `device_time` datetime(6) NOT NULL,
  `server_time` datetime(6) NOT NULL,
  `deleted_at` datetime(6) DEFAULT NULL,
  `temperature_c` double DEFAULT NULL,
  `ambient_us_cm` double DEFAULT NULL,
  `specific_us_cm` double DEFAULT NULL,
  `oxygen_mg_l` double DEFAULT NULL,
  `secchi_m` double DEFAULT NULL,
  `outing_id` uuid NOT NULL,
  `recorder_id` uuid NOT NULL,
  `run_id` uuid DEFAULT NULL,
  PRIMARY KEY (`id`),
  KEY `deck_waterreading_outing_id_476bb412_fk_deck_outing_id` (`outing_id`),
  KEY `deck_waterreading_recorder_id_230e4178_fk_programmes_person_id` (`recorder_id`),
  KEY `deck_waterreading_run_id_635a7bad_fk_deck_run_id` (`run_id`),
  CONSTRAINT `deck_waterreading_outing_id_476bb412_fk_deck_outing_id` FOREIGN KEY (`outing_id`) REFERENCES `deck_outing` (`id`),
  CONSTRAINT `deck_waterreading_recorder_id_230e4178_fk_programmes_person_id` FOREIGN KEY (`recorder_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `deck_waterreading_run_id_635a7bad_fk_deck_run_id` FOREIGN KEY (`run_id`) REFERENCES `deck_run` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `deck_waterreading` DISABLE KEYS */;
INSERT INTO `deck_waterreading` VALUES ('01900000-0000-7000-8000-000000000025','2026-10-12 20:01:00.000000','2026-11-26 02:40:08.165830',NULL,9.5,180,NULL,NULL,NULL,'01900000-0000-7000-8000-000000000017','01900000-0000-7000-8000-000000000007',NULL);
/*!40000 ALTER TABLE `deck_waterreading` ENABLE KEYS */;
DROP TABLE IF EXISTS `django_content_type`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `django_content_type` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `app_label` varchar(100) NOT NULL,
  `model` varchar(100) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `django_content_type_app_label_model_76bd3d3b_uniq` (`app_label`,`model`)
) ENGINE=InnoDB AUTO_INCREMENT=39 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `django_content_type` DISABLE KEYS */;
INSERT INTO `django_content_type` VALUES (2,'auth','group');
INSERT INTO `django_content_type` VALUES (1,'auth','permission');
INSERT INTO `django_content_type` VALUES (5,'authtoken','token');
INSERT INTO `django_content_type` VALUES (6,'authtoken','tokenproxy');
INSERT INTO `django_content_type` VALUES (7,'axes','accessattempt');
INSERT INTO `django_content_type` VALUES (10,'axes','accessattemptexpiration');
INSERT INTO `django_content_type` VALUES (9,'axes','accessfailurelog');
INSERT INTO `django_content_type` VALUES (8,'axes','accesslog');
INSERT INTO `django_content_type` VALUES (3,'contenttypes','contenttype');
INSERT INTO `django_content_type` VALUES (23,'deck','capture');
INSERT INTO `django_content_type` VALUES (24,'deck','outing');
INSERT INTO `django_content_type` VALUES (27,'deck','release');
INSERT INTO `django_content_type` VALUES (25,'deck','run');
INSERT INTO `django_content_type` VALUES (29,'deck','signature');
INSERT INTO `django_content_type` VALUES (28,'deck','target');
INSERT INTO `django_content_type` VALUES (26,'deck','waterreading');
INSERT INTO `django_content_type` VALUES (11,'django_tasks_database','dbtaskresult');
INSERT INTO `django_content_type` VALUES (30,'findings','keptfinding');
INSERT INTO `django_content_type` VALUES (19,'jobs','job');
INSERT INTO `django_content_type` VALUES (32,'plan','paper');
INSERT INTO `django_content_type` VALUES (36,'plan','plannedsite');
INSERT INTO `django_content_type` VALUES (35,'plan','rehearsing');
INSERT INTO `django_content_type` VALUES (33,'plan','season');
INSERT INTO `django_content_type` VALUES (34,'plan','survey');
INSERT INTO `django_content_type` VALUES (37,'plan','unit');
INSERT INTO `django_content_type` VALUES (38,'plan','zone');
INSERT INTO `django_content_type` VALUES (15,'programmes','change');
INSERT INTO `django_content_type` VALUES (13,'programmes','membership');
INSERT INTO `django_content_type` VALUES (12,'programmes','person');
INSERT INTO `django_content_type` VALUES (14,'programmes','programme');
INSERT INTO `django_content_type` VALUES (16,'programmes','programmespecies');
INSERT INTO `django_content_type` VALUES (18,'programmes','site');
INSERT INTO `django_content_type` VALUES (17,'programmes','water');
INSERT INTO `django_content_type` VALUES (31,'records','import');
INSERT INTO `django_content_type` VALUES (4,'sessions','session');
INSERT INTO `django_content_type` VALUES (20,'tags','fish');
INSERT INTO `django_content_type` VALUES (22,'tags','placement');
INSERT INTO `django_content_type` VALUES (21,'tags','tag');
/*!40000 ALTER TABLE `django_content_type` ENABLE KEYS */;
DROP TABLE IF EXISTS `django_migrations`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `django_migrations` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `app` varchar(255) NOT NULL,
  `name` varchar(255) NOT NULL,
  `applied` datetime(6) NOT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=69 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `django_migrations` DISABLE KEYS */;
INSERT INTO `django_migrations` VALUES (1,'contenttypes','0001_initial','2026-11-26 02:39:59.714661');
INSERT INTO `django_migrations` VALUES (2,'contenttypes','0002_remove_content_type_name','2026-11-26 02:39:59.733528');
INSERT INTO `django_migrations` VALUES (3,'auth','0001_initial','2026-11-26 02:39:59.787769');
INSERT INTO `django_migrations` VALUES (4,'auth','0002_alter_permission_name_max_length','2026-11-26 02:39:59.800398');
INSERT INTO `django_migrations` VALUES (5,'auth','0003_alter_user_email_max_length','2026-11-26 02:39:59.807857');
INSERT INTO `django_migrations` VALUES (6,'auth','0004_alter_user_username_opts','2026-11-26 02:39:59.814778');
INSERT INTO `django_migrations` VALUES (7,'auth','0005_alter_user_last_login_null','2026-11-26 02:39:59.824057');
INSERT INTO `django_migrations` VALUES (8,'auth','0006_require_contenttypes_0002','2026-11-26 02:39:59.825496');
INSERT INTO `django_migrations` VALUES (9,'auth','0007_alter_validators_add_error_messages','2026-11-26 02:39:59.831776');
INSERT INTO `django_migrations` VALUES (10,'auth','0008_alter_user_username_max_length','2026-11-26 02:39:59.838757');
INSERT INTO `django_migrations` VALUES (11,'auth','0009_alter_user_last_name_max_length','2026-11-26 02:39:59.845869');
INSERT INTO `django_migrations` VALUES (12,'auth','0010_alter_group_name_max_length','2026-11-26 02:39:59.856915');
INSERT INTO `django_migrations` VALUES (13,'auth','0011_update_proxy_permissions','2026-11-26 02:39:59.864800');
INSERT INTO `django_migrations` VALUES (14,'auth','0012_alter_user_first_name_max_length','2026-11-26 02:39:59.872066');
INSERT INTO `django_migrations` VALUES (15,'programmes','0001_initial','2026-11-26 02:40:00.134457');
INSERT INTO `django_migrations` VALUES (16,'authtoken','0001_initial','2026-11-26 02:40:00.164010');
INSERT INTO `django_migrations` VALUES (17,'authtoken','0002_auto_20160226_1747','2026-11-26 02:40:00.216916');
INSERT INTO `django_migrations` VALUES (18,'authtoken','0003_tokenproxy','2026-11-26 02:40:00.219283');
INSERT INTO `django_migrations` VALUES (19,'authtoken','0004_alter_tokenproxy_options','2026-11-26 02:40:00.225195');
INSERT INTO `django_migrations` VALUES (20,'axes','0001_initial','2026-11-26 02:40:00.235553');
INSERT INTO `django_migrations` VALUES (21,'axes','0002_auto_20151217_2044','2026-11-26 02:40:00.300164');
INSERT INTO `django_migrations` VALUES (22,'axes','0003_auto_20160322_0929','2026-11-26 02:40:00.327174');
INSERT INTO `django_migrations` VALUES (23,'axes','0004_auto_20181024_1538','2026-11-26 02:40:00.349583');
INSERT INTO `django_migrations` VALUES (24,'axes','0005_remove_accessattempt_trusted','2026-11-26 02:40:00.358554');
INSERT INTO `django_migrations` VALUES (25,'axes','0006_remove_accesslog_trusted','2026-11-26 02:40:00.366256');
INSERT INTO `django_migrations` VALUES (26,'axes','0007_alter_accessattempt_unique_together','2026-11-26 02:40:00.400704');
INSERT INTO `django_migrations` VALUES (27,'axes','0008_accessfailurelog','2026-11-26 02:40:00.421650');
INSERT INTO `django_migrations` VALUES (28,'axes','0009_add_session_hash','2026-11-26 02:40:00.433667');
INSERT INTO `django_migrations` VALUES (29,'axes','0010_accessattemptexpiration','2026-11-26 02:40:00.445641');
INSERT INTO `django_migrations` VALUES (30,'jobs','0001_initial','2026-11-26 02:40:00.484111');
INSERT INTO `django_migrations` VALUES (31,'records','0001_initial','2026-11-26 02:40:00.533615');
INSERT INTO `django_migrations` VALUES (32,'deck','0001_initial','2026-11-26 02:40:00.559937');
INSERT INTO `django_migrations` VALUES (33,'deck','0002_initial','2026-11-26 02:40:01.013287');
INSERT INTO `django_migrations` VALUES (34,'deck','0003_release_target','2026-11-26 02:40:01.024237');
INSERT INTO `django_migrations` VALUES (35,'tags','0001_initial','2026-11-26 02:40:01.208238');
INSERT INTO `django_migrations` VALUES (36,'deck','0004_marks','2026-11-26 02:40:01.618739');
INSERT INTO `django_migrations` VALUES (37,'deck','0005_register_orders','2026-11-26 02:40:01.736023');
INSERT INTO `django_migrations` VALUES (38,'deck','0006_capture_brought_in','2026-11-26 02:40:01.787568');
INSERT INTO `django_migrations` VALUES (39,'plan','0001_initial','2026-11-26 02:40:02.316504');
INSERT INTO `django_migrations` VALUES (40,'deck','0007_register_indexes','2026-11-26 02:40:02.695736');
INSERT INTO `django_migrations` VALUES (41,'deck','0008_checklists_and_orders','2026-11-26 02:40:03.102959');
INSERT INTO `django_migrations` VALUES (42,'deck','0009_target_reach','2026-11-26 02:40:03.128964');
INSERT INTO `django_migrations` VALUES (43,'django_tasks_database','0001_initial','2026-11-26 02:40:03.135477');
INSERT INTO `django_migrations` VALUES (44,'django_tasks_database','0002_alter_dbtaskresult_options','2026-11-26 02:40:03.139649');
INSERT INTO `django_migrations` VALUES (45,'django_tasks_database','0003_dbtaskresult_enqueued_at_dbtaskresult_finished_at','2026-11-26 02:40:03.159889');
INSERT INTO `django_migrations` VALUES (46,'django_tasks_database','0004_dbtaskresult_started_at','2026-11-26 02:40:03.169153');
INSERT INTO `django_migrations` VALUES (47,'django_tasks_database','0005_alter_dbtaskresult_priority_and_more','2026-11-26 02:40:03.204399');
INSERT INTO `django_migrations` VALUES (48,'django_tasks_database','0006_alter_dbtaskresult_args_kwargs_and_more','2026-11-26 02:40:03.244301');
INSERT INTO `django_migrations` VALUES (49,'django_tasks_database','0007_add_separate_results_fields','2026-11-26 02:40:03.263659');
INSERT INTO `django_migrations` VALUES (50,'django_tasks_database','0008_separate_results_field','2026-11-26 02:40:03.317753');
INSERT INTO `django_migrations` VALUES (51,'django_tasks_database','0009_remove_results_field','2026-11-26 02:40:03.326488');
INSERT INTO `django_migrations` VALUES (52,'django_tasks_database','0010_alter_dbtaskresult_status','2026-11-26 02:40:03.335833');
INSERT INTO `django_migrations` VALUES (53,'django_tasks_database','0011_rename_complete_status','2026-11-26 02:40:03.392122');
INSERT INTO `django_migrations` VALUES (54,'django_tasks_database','0012_add_separate_exception_fields','2026-11-26 02:40:03.411241');
INSERT INTO `django_migrations` VALUES (55,'django_tasks_database','0013_separate_exception_fields','2026-11-26 02:40:03.465034');
INSERT INTO `django_migrations` VALUES (56,'django_tasks_database','0014_remove_dbtaskresult_exception_data','2026-11-26 02:40:03.477933');
INSERT INTO `django_migrations` VALUES (57,'django_tasks_database','0015_correctly_order_run_after','2026-11-26 02:40:03.482602');
INSERT INTO `django_migrations` VALUES (58,'django_tasks_database','0016_remove_dbtaskresult_django_task_new_ordering_idx_and_more','2026-11-26 02:40:03.619911');
INSERT INTO `django_migrations` VALUES (59,'django_tasks_database','0017_dbtaskresult_metadata','2026-11-26 02:40:03.633690');
INSERT INTO `django_migrations` VALUES (60,'django_tasks_database','0018_rename_succeeded_status','2026-11-26 02:40:03.700336');
INSERT INTO `django_migrations` VALUES (61,'django_tasks_database','0019_rename_django_task_new_ordering_idx_tasks_db_new_ordering_idx_and_more','2026-11-26 02:40:03.725036');
INSERT INTO `django_migrations` VALUES (62,'django_tasks_database','0020_update_db_task_result_ordering','2026-11-26 02:40:03.737451');
INSERT INTO `django_migrations` VALUES (63,'django_tasks_database','0021_conditional_partial_index_ordering','2026-11-26 02:40:03.752450');
INSERT INTO `django_migrations` VALUES (64,'findings','0001_initial','2026-11-26 02:40:03.824254');
INSERT INTO `django_migrations` VALUES (65,'plan','0002_signatures_to_deck','2026-11-26 02:40:03.826781');
INSERT INTO `django_migrations` VALUES (66,'plan','0003_survey_deleted','2026-11-26 02:40:03.889327');
INSERT INTO `django_migrations` VALUES (67,'plan','0004_well_to_limits','2026-11-26 02:40:03.961992');
INSERT INTO `django_migrations` VALUES (68,'sessions','0001_initial','2026-11-26 02:40:03.974015');
/*!40000 ALTER TABLE `django_migrations` ENABLE KEYS */;
DROP TABLE IF EXISTS `django_session`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `django_session` (
  `session_key` varchar(40) NOT NULL,
  `session_data` longtext NOT NULL,
  `expire_date` datetime(6) NOT NULL,
  PRIMARY KEY (`session_key`),
  KEY `django_session_expire_date_a5c62663` (`expire_date`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `django_session` DISABLE KEYS */;
/*!40000 ALTER TABLE `django_session` ENABLE KEYS */;
DROP TABLE IF EXISTS `django_tasks_database_dbtaskresult`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `django_tasks_database_dbtaskresult` (
  `id` uuid NOT NULL,
  `status` varchar(10) NOT NULL,
  `args_kwargs` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`args_kwargs`)),
  `priority` int(11) NOT NULL,
  `task_path` longtext NOT NULL,
  `queue_name` varchar(32) NOT NULL,
  `backend_name` varchar(32) NOT NULL,
  `run_after` datetime(6) NOT NULL,
  `enqueued_at` datetime(6) NOT NULL,
  `finished_at` datetime(6) DEFAULT NULL,
  `started_at` datetime(6) DEFAULT NULL,
  `return_value` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`return_value`)),
  `exception_class_path` longtext NOT NULL,
  `traceback` longtext NOT NULL,
  `worker_ids` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`worker_ids`)),
  PRIMARY KEY (`id`),
  KEY `django_task_queue_n_99c321_idx` (`queue_name`),
  KEY `django_task_backend_071754_idx` (`backend_name`),
  KEY `tasks_db_new_ordering_idx` (`status`,`priority` DESC,`run_after`,`enqueued_at`),
  CONSTRAINT `priority_range` CHECK (`priority` between -100 and 100)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `django_tasks_database_dbtaskresult` DISABLE KEYS */;
/*!40000 ALTER TABLE `django_tasks_database_dbtaskresult` ENABLE KEYS */;
DROP TABLE IF EXISTS `findings_keptfinding`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `findings_keptfinding` (
  `id` uuid NOT NULL,
  `kind` varchar(24) NOT NULL,
  `title` varchar(120) NOT NULL,
  `query` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`query`)),
  `result` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`result`)),
  `seed` bigint(20) DEFAULT NULL,
  `rows_mark` varchar(60) NOT NULL,
  `kept_at` datetime(6) NOT NULL,
  `keeper_id` uuid NOT NULL,
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `findings_keptfinding_keeper_id_58c8afdb_fk_programmes_person_id` (`keeper_id`),
  KEY `findings_keptfinding_programme_id_a145eb50_fk_programme` (`programme_id`),
  CONSTRAINT `findings_keptfinding_keeper_id_58c8afdb_fk_programmes_person_id` FOREIGN KEY (`keeper_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `findings_keptfinding_programme_id_a145eb50_fk_programme` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `findings_keptfinding` DISABLE KEYS */;
/*!40000 ALTER TABLE `findings_keptfinding` ENABLE KEYS */;
DROP TABLE IF EXISTS `jobs_job`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `jobs_job` (
  `id` uuid NOT NULL,
  `permission` varchar(20) NOT NULL,
  `title` varchar(120) NOT NULL,
  `state` varchar(8) NOT NULL,
  `done` int(10) unsigned NOT NULL CHECK (`done` >= 0),
  `total` int(10) unsigned NOT NULL CHECK (`total` >= 0),
  `stop_asked` tinyint(1) NOT NULL,
  `error` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`error`)),
  `task` uuid DEFAULT NULL,
  `made_at` datetime(6) NOT NULL,
  `heartbeat` datetime(6) DEFAULT NULL,
  `ended_at` datetime(6) DEFAULT NULL,
  `person_id` uuid NOT NULL,
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `jobs_job_person_id_a82d0d0a_fk_programmes_person_id` (`person_id`),
  KEY `jobs_job_programme_id_62990f50_fk_programmes_programme_id` (`programme_id`),
  CONSTRAINT `jobs_job_person_id_a82d0d0a_fk_programmes_person_id` FOREIGN KEY (`person_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `jobs_job_programme_id_62990f50_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `jobs_job` DISABLE KEYS */;
/*!40000 ALTER TABLE `jobs_job` ENABLE KEYS */;
DROP TABLE IF EXISTS `plan_paper`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `plan_paper` (
  `id` uuid NOT NULL,
  `kind` varchar(13) NOT NULL,
  `name` varchar(120) NOT NULL,
  `holder` varchar(80) NOT NULL,
  `number` varchar(60) NOT NULL,
  `gears` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`gears`)),
  `first` date NOT NULL,
  `last` date NOT NULL,
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `plan_paper_programme_id_7e798c1d_fk_programmes_programme_id` (`programme_id`),
  CONSTRAINT `plan_paper_programme_id_7e798c1d_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `plan_paper` DISABLE KEYS */;
/*!40000 ALTER TABLE `plan_paper` ENABLE KEYS */;
DROP TABLE IF EXISTS `plan_plannedsite`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `plan_plannedsite` (
  `id` uuid NOT NULL,
  `number` smallint(5) unsigned NOT NULL CHECK (`number` >= 0),
  `start_m` double NOT NULL,
  `end_m` double NOT NULL,
  `zone` varchar(60) NOT NULL,
  `moved` varchar(200) NOT NULL,
  `site_id` uuid DEFAULT NULL,
  `survey_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `plan_plannedsite_site_id_283fde82_fk_programmes_site_id` (`site_id`),
  KEY `plan_plannedsite_survey_id_5fd2c0f0_fk_plan_survey_id` (`survey_id`),
  CONSTRAINT `plan_plannedsite_site_id_283fde82_fk_programmes_site_id` FOREIGN KEY (`site_id`) REFERENCES `programmes_site` (`id`),
  CONSTRAINT `plan_plannedsite_survey_id_5fd2c0f0_fk_plan_survey_id` FOREIGN KEY (`survey_id`) REFERENCES `plan_survey` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `plan_plannedsite` DISABLE KEYS */;
INSERT INTO `plan_plannedsite` VALUES ('01a215b9-8084-79ce-bb4e-d746da2bc691',1,685.4057522369378,1685.4057522369378,'Lower','','01a215b9-80b0-7c64-83a4-c6bbd57fad13','01a215b9-805a-7d78-8af2-57be46ee1818');
INSERT INTO `plan_plannedsite` VALUES ('01a215b9-8085-7816-9311-503ff256039f',2,6685.405752236938,7685.405752236938,'','','01a215b9-80b2-7c7f-b634-e74e2c571752','01a215b9-805a-7d78-8af2-57be46ee1818');
INSERT INTO `plan_plannedsite` VALUES ('01a215b9-8086-7d4b-a40e-12d66febaf96',3,12685.405752236938,13685.405752236938,'','','01a215b9-80b4-7f94-8c13-d72f923b9a49','01a215b9-805a-7d78-8af2-57be46ee1818');
/*!40000 ALTER TABLE `plan_plannedsite` ENABLE KEYS */;
DROP TABLE IF EXISTS `plan_rehearsing`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `plan_rehearsing` (
  `id` uuid NOT NULL,
  `kind` varchar(8) NOT NULL,
  `design` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`design`)),
  `choice` varchar(20) NOT NULL,
  `values` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`values`)),
  `replicates` int(10) unsigned NOT NULL CHECK (`replicates` >= 0),
  `seed` int(10) unsigned NOT NULL CHECK (`seed` >= 0),
  `result` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`result`)),
  `made_at` datetime(6) NOT NULL,
  `job_id` uuid DEFAULT NULL,
  `person_id` uuid NOT NULL,
  `survey_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `plan_rehearsing_job_id_ef298caa_fk_jobs_job_id` (`job_id`),
  KEY `plan_rehearsing_person_id_a44903b1_fk_programmes_person_id` (`person_id`),
  KEY `plan_rehearsing_survey_id_6f2b244e_fk_plan_survey_id` (`survey_id`),
  CONSTRAINT `plan_rehearsing_job_id_ef298caa_fk_jobs_job_id` FOREIGN KEY (`job_id`) REFERENCES `jobs_job` (`id`),
  CONSTRAINT `plan_rehearsing_person_id_a44903b1_fk_programmes_person_id` FOREIGN KEY (`person_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `plan_rehearsing_survey_id_6f2b244e_fk_plan_survey_id` FOREIGN KEY (`survey_id`) REFERENCES `plan_survey` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `plan_rehearsing` DISABLE KEYS */;
/*!40000 ALTER TABLE `plan_rehearsing` ENABLE KEYS */;
DROP TABLE IF EXISTS `plan_season`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `plan_season` (
  `id` uuid NOT NULL,
  `kind` varchar(8) NOT NULL,
  `name` varchar(120) NOT NULL,
  `first_day` varchar(5) NOT NULL,
  `last_day` varchar(5) NOT NULL,
  `programme_id` uuid NOT NULL,
  `water_id` uuid DEFAULT NULL,
  PRIMARY KEY (`id`),
  KEY `plan_season_programme_id_a2de5372_fk_programmes_programme_id` (`programme_id`),
  KEY `plan_season_water_id_2c0ef2ba_fk_programmes_water_id` (`water_id`),
  CONSTRAINT `plan_season_programme_id_a2de5372_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`),
  CONSTRAINT `plan_season_water_id_2c0ef2ba_fk_programmes_water_id` FOREIGN KEY (`water_id`) REFERENCES `programmes_water` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `plan_season` DISABLE KEYS */;
/*!40000 ALTER TABLE `plan_season` ENABLE KEYS */;
DROP TABLE IF EXISTS `plan_survey`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `plan_survey` (
  `id` uuid NOT NULL,
  `name` varchar(120) NOT NULL,
  `question` varchar(8) NOT NULL,
  `species` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`species`)),
  `gear` varchar(24) NOT NULL,
  `first` date NOT NULL,
  `last` date NOT NULL,
  `visits` smallint(5) unsigned NOT NULL CHECK (`visits` >= 0),
  `effort_s` int(10) unsigned NOT NULL CHECK (`effort_s` >= 0),
  `revisit_years` smallint(5) unsigned DEFAULT NULL CHECK (`revisit_years` >= 0),
  `parts` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`parts`)),
  `made_at` datetime(6) NOT NULL,
  `person_id` uuid NOT NULL,
  `programme_id` uuid NOT NULL,
  `water_id` uuid NOT NULL,
  `deleted_at` datetime(6) DEFAULT NULL,
  PRIMARY KEY (`id`),
  KEY `plan_survey_person_id_398f4b7c_fk_programmes_person_id` (`person_id`),
  KEY `plan_survey_programme_id_9bd4291b_fk_programmes_programme_id` (`programme_id`),
  KEY `plan_survey_water_id_1caf35aa_fk_programmes_water_id` (`water_id`),
  CONSTRAINT `plan_survey_person_id_398f4b7c_fk_programmes_person_id` FOREIGN KEY (`person_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `plan_survey_programme_id_9bd4291b_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`),
  CONSTRAINT `plan_survey_water_id_1caf35aa_fk_programmes_water_id` FOREIGN KEY (`water_id`) REFERENCES `programmes_water` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `plan_survey` DISABLE KEYS */;
INSERT INTO `plan_survey` VALUES ('01a215b9-805a-7d78-8af2-57be46ee1818','Spring','size','[\"wal\"]','boat_electrofishing','2026-04-01','2026-05-01',1,900,NULL,'{\"layout\": {\"layout\": \"systematic\", \"from_km\": 0, \"to_km\": null, \"site_length_m\": 500, \"gap_m\": 2000, \"n\": null, \"seed\": 1}, \"crew\": [\"Lead\", \"Crew\"]}','2026-11-26 02:40:08.282901','01900000-0000-7000-8000-000000000005','01900000-0000-7000-8000-000000000001','01900000-0000-7000-8000-000000000009',NULL);
/*!40000 ALTER TABLE `plan_survey` ENABLE KEYS */;
DROP TABLE IF EXISTS `plan_survey_outings`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `plan_survey_outings` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `survey_id` uuid NOT NULL,
  `outing_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `plan_survey_outings_survey_id_outing_id_977a06d0_uniq` (`survey_id`,`outing_id`),
  KEY `plan_survey_outings_outing_id_f8a87785_fk_deck_outing_id` (`outing_id`),
  CONSTRAINT `plan_survey_outings_outing_id_f8a87785_fk_deck_outing_id` FOREIGN KEY (`outing_id`) REFERENCES `deck_outing` (`id`),
  CONSTRAINT `plan_survey_outings_survey_id_002a7637_fk_plan_survey_id` FOREIGN KEY (`survey_id`) REFERENCES `plan_survey` (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=2 DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `plan_survey_outings` DISABLE KEYS */;
INSERT INTO `plan_survey_outings` VALUES (1,'01a215b9-805a-7d78-8af2-57be46ee1818','01a215b9-80b6-7deb-8863-73d0f5e7d4d4');
/*!40000 ALTER TABLE `plan_survey_outings` ENABLE KEYS */;
DROP TABLE IF EXISTS `plan_unit`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `plan_unit` (
  `id` uuid NOT NULL,
  `name` varchar(60) NOT NULL,
  `gear` varchar(24) NOT NULL,
  `max_volts` double NOT NULL,
  `max_amps` double NOT NULL,
  `max_watts` double NOT NULL,
  `max_hz` double NOT NULL,
  `max_duty` double NOT NULL,
  `r100_ohm` double NOT NULL,
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `plan_unit_programme_id_6fc83b40_fk_programmes_programme_id` (`programme_id`),
  CONSTRAINT `plan_unit_programme_id_6fc83b40_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `plan_unit` DISABLE KEYS */;
/*!40000 ALTER TABLE `plan_unit` ENABLE KEYS */;
DROP TABLE IF EXISTS `plan_zone`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `plan_zone` (
  `id` uuid NOT NULL,
  `kind` varchar(5) NOT NULL,
  `name` varchar(60) NOT NULL,
  `start_m` double NOT NULL,
  `end_m` double NOT NULL,
  `note` varchar(200) NOT NULL,
  `water_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `plan_zone_water_id_a8748c8b_fk_programmes_water_id` (`water_id`),
  CONSTRAINT `plan_zone_water_id_a8748c8b_fk_programmes_water_id` FOREIGN KEY (`water_id`) REFERENCES `programmes_water` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `plan_zone` DISABLE KEYS */;
INSERT INTO `plan_zone` VALUES ('01a215b9-8060-71ae-a85a-0dd50de51dc7','zone','Lower',0,5000,'','01900000-0000-7000-8000-000000000009');
INSERT INTO `plan_zone` VALUES ('01a215b9-8061-70fe-8501-7cb7e94eac97','dam','Weir',9000,9400,'','01900000-0000-7000-8000-000000000009');
/*!40000 ALTER TABLE `plan_zone` ENABLE KEYS */;
DROP TABLE IF EXISTS `programmes_change`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `programmes_change` (
  `id` uuid NOT NULL,
  `table` varchar(20) NOT NULL,
  `row` uuid NOT NULL,
  `device_time` datetime(6) NOT NULL,
  `server_time` datetime(6) NOT NULL,
  `reason` varchar(200) NOT NULL,
  `before` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`before`)),
  `after` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`after`)),
  `person_id` uuid NOT NULL,
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `programmes__row_c136c7_idx` (`row`,`server_time`),
  KEY `programmes_change_person_id_8ef496d7_fk_programmes_person_id` (`person_id`),
  KEY `programmes_change_programme_id_ec5a8f98_fk_programme` (`programme_id`),
  CONSTRAINT `programmes_change_person_id_8ef496d7_fk_programmes_person_id` FOREIGN KEY (`person_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `programmes_change_programme_id_ec5a8f98_fk_programme` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `programmes_change` DISABLE KEYS */;
INSERT INTO `programmes_change` VALUES ('01900000-0000-7000-8000-000000000029','capture','01900000-0000-7000-8000-000000000021','2026-10-12 20:08:00.000000','2026-11-26 02:40:08.253350','','{\"length_mm\": 431.8, \"length_text\": \"17\", \"sex\": \"u\", \"sex_evidence\": \"\"}','{\"length_mm\": 438.1, \"length_text\": \"17 1/4\", \"sex\": \"m\", \"sex_evidence\": \"pressure\"}','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000001');
INSERT INTO `programmes_change` VALUES ('01900000-0000-7000-8000-000000000030','capture','01900000-0000-7000-8000-000000000020','2026-10-12 20:09:00.000000','2026-11-26 02:40:08.266279','','{\"deleted_at\": null}','{\"deleted_at\": \"2026-10-12T20:09:00Z\"}','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000001');
INSERT INTO `programmes_change` VALUES ('01900000-0000-7000-8000-000000000032','survey','01a215b9-805a-7d78-8af2-57be46ee1818','2026-10-12 20:00:00.000000','2026-11-26 02:40:08.304255','','{\"parts\": {}}','{\"parts\": {\"layout\": {\"layout\": \"systematic\", \"from_km\": 0, \"to_km\": null, \"site_length_m\": 500, \"gap_m\": 2000, \"n\": null, \"seed\": 1}, \"crew\": [\"Lead\", \"Crew\"]}}','01900000-0000-7000-8000-000000000005','01900000-0000-7000-8000-000000000001');
INSERT INTO `programmes_change` VALUES ('01a215b9-80e0-75d8-9c48-222352655621','outing','01a215b9-80b6-7deb-8863-73d0f5e7d4d4','2026-11-26 02:40:08.416583','2026-11-26 02:40:08.416601','papers are on the way','{\"against\": [\"Nobody of the crew has a valid qualification for this gear.\"]}','{\"opened\": \"all the same\"}','01900000-0000-7000-8000-000000000005','01900000-0000-7000-8000-000000000001');
/*!40000 ALTER TABLE `programmes_change` ENABLE KEYS */;
DROP TABLE IF EXISTS `programmes_membership`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `programmes_membership` (
  `id` uuid NOT NULL,
  `role` varchar(10) NOT NULL,
  `person_id` uuid NOT NULL,
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `one_role_each` (`programme_id`,`person_id`),
  KEY `programmes_membership_person_id_eafeccc6_fk_programmes_person_id` (`person_id`),
  CONSTRAINT `programmes_membershi_programme_id_fe17f193_fk_programme` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`),
  CONSTRAINT `programmes_membership_person_id_eafeccc6_fk_programmes_person_id` FOREIGN KEY (`person_id`) REFERENCES `programmes_person` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `programmes_membership` DISABLE KEYS */;
INSERT INTO `programmes_membership` VALUES ('01900000-0000-7000-8000-000000000006','lead','01900000-0000-7000-8000-000000000005','01900000-0000-7000-8000-000000000001');
INSERT INTO `programmes_membership` VALUES ('01900000-0000-7000-8000-000000000008','crew','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000001');
/*!40000 ALTER TABLE `programmes_membership` ENABLE KEYS */;
DROP TABLE IF EXISTS `programmes_person`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `programmes_person` (
  `password` varchar(128) NOT NULL,
  `last_login` datetime(6) DEFAULT NULL,
  `is_superuser` tinyint(1) NOT NULL,
  `username` varchar(150) NOT NULL,
  `first_name` varchar(150) NOT NULL,
  `last_name` varchar(150) NOT NULL,
  `email` varchar(254) NOT NULL,
  `is_staff` tinyint(1) NOT NULL,
  `is_active` tinyint(1) NOT NULL,
  `date_joined` datetime(6) NOT NULL,
  `id` uuid NOT NULL,
  `name` varchar(80) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `username` (`username`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `programmes_person` DISABLE KEYS */;
INSERT INTO `programmes_person` VALUES ('',NULL,0,'lead','','','',0,1,'2026-11-26 02:40:08.128438','01900000-0000-7000-8000-000000000005','Lead');
INSERT INTO `programmes_person` VALUES ('',NULL,0,'crew','','','',0,1,'2026-11-26 02:40:08.130414','01900000-0000-7000-8000-000000000007','Crew');
/*!40000 ALTER TABLE `programmes_person` ENABLE KEYS */;
DROP TABLE IF EXISTS `programmes_person_groups`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `programmes_person_groups` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `person_id` uuid NOT NULL,
  `group_id` int(11) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `programmes_person_groups_person_id_group_id_a2d65277_uniq` (`person_id`,`group_id`),
  KEY `programmes_person_groups_group_id_9262833a_fk_auth_group_id` (`group_id`),
  CONSTRAINT `programmes_person_gr_person_id_6864d4dc_fk_programme` FOREIGN KEY (`person_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `programmes_person_groups_group_id_9262833a_fk_auth_group_id` FOREIGN KEY (`group_id`) REFERENCES `auth_group` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `programmes_person_groups` DISABLE KEYS */;
/*!40000 ALTER TABLE `programmes_person_groups` ENABLE KEYS */;
DROP TABLE IF EXISTS `programmes_person_user_permissions`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `programmes_person_user_permissions` (
  `id` bigint(20) NOT NULL AUTO_INCREMENT,
  `person_id` uuid NOT NULL,
  `permission_id` int(11) NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `programmes_person_user_p_person_id_permission_id_7d85336b_uniq` (`person_id`,`permission_id`),
  KEY `programmes_person_us_permission_id_20b727bd_fk_auth_perm` (`permission_id`),
  CONSTRAINT `programmes_person_us_permission_id_20b727bd_fk_auth_perm` FOREIGN KEY (`permission_id`) REFERENCES `auth_permission` (`id`),
  CONSTRAINT `programmes_person_us_person_id_b07ffb42_fk_programme` FOREIGN KEY (`person_id`) REFERENCES `programmes_person` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `programmes_person_user_permissions` DISABLE KEYS */;
/*!40000 ALTER TABLE `programmes_person_user_permissions` ENABLE KEYS */;
DROP TABLE IF EXISTS `programmes_programme`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `programmes_programme` (
  `id` uuid NOT NULL,
  `name` varchar(120) NOT NULL,
  `time_zone` varchar(40) NOT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `programmes_programme` DISABLE KEYS */;
INSERT INTO `programmes_programme` VALUES ('01900000-0000-7000-8000-000000000001','Tarn study','UTC');
/*!40000 ALTER TABLE `programmes_programme` ENABLE KEYS */;
DROP TABLE IF EXISTS `programmes_programmespecies`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `programmes_programmespecies` (
  `id` uuid NOT NULL,
  `code` varchar(8) NOT NULL,
  `order` smallint(5) unsigned NOT NULL CHECK (`order` >= 0),
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `species_once` (`programme_id`,`code`),
  CONSTRAINT `programmes_programme_programme_id_58c00757_fk_programme` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `programmes_programmespecies` DISABLE KEYS */;
INSERT INTO `programmes_programmespecies` VALUES ('01900000-0000-7000-8000-000000000002','wal',0,'01900000-0000-7000-8000-000000000001');
INSERT INTO `programmes_programmespecies` VALUES ('01900000-0000-7000-8000-000000000003','yep',1,'01900000-0000-7000-8000-000000000001');
INSERT INTO `programmes_programmespecies` VALUES ('01900000-0000-7000-8000-000000000004','bur',2,'01900000-0000-7000-8000-000000000001');
/*!40000 ALTER TABLE `programmes_programmespecies` ENABLE KEYS */;
DROP TABLE IF EXISTS `programmes_site`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `programmes_site` (
  `id` uuid NOT NULL,
  `name` varchar(60) NOT NULL,
  `reach` varchar(60) NOT NULL,
  `river_km` double DEFAULT NULL,
  `geometry` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`geometry`)),
  `water_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `programmes_site_water_id_f6e8ea56_fk_programmes_water_id` (`water_id`),
  CONSTRAINT `programmes_site_water_id_f6e8ea56_fk_programmes_water_id` FOREIGN KEY (`water_id`) REFERENCES `programmes_water` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `programmes_site` DISABLE KEYS */;
INSERT INTO `programmes_site` VALUES ('01900000-0000-7000-8000-000000000010','K5','Lower river',5,'{\"type\": \"Point\", \"coordinates\": [10.07, 50.0]}','01900000-0000-7000-8000-000000000009');
INSERT INTO `programmes_site` VALUES ('01a215b9-80b0-7c64-83a4-c6bbd57fad13','Spring 1','Lower',1.185,'{\"type\": \"Point\", \"coordinates\": [10.016534, 50.0]}','01900000-0000-7000-8000-000000000009');
INSERT INTO `programmes_site` VALUES ('01a215b9-80b2-7c7f-b634-e74e2c571752','Spring 2','',7.185,'{\"type\": \"Point\", \"coordinates\": [10.100221, 50.0]}','01900000-0000-7000-8000-000000000009');
INSERT INTO `programmes_site` VALUES ('01a215b9-80b4-7f94-8c13-d72f923b9a49','Spring 3','',13.185,'{\"type\": \"Point\", \"coordinates\": [10.183908, 50.0]}','01900000-0000-7000-8000-000000000009');
/*!40000 ALTER TABLE `programmes_site` ENABLE KEYS */;
DROP TABLE IF EXISTS `programmes_water`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `programmes_water` (
  `id` uuid NOT NULL,
  `name` varchar(120) NOT NULL,
  `kind` varchar(10) NOT NULL,
  `time_zone` varchar(40) NOT NULL,
  `geometry` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`geometry`)),
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `programmes_water_programme_id_af9d0ccc_fk_programme` (`programme_id`),
  CONSTRAINT `programmes_water_programme_id_af9d0ccc_fk_programme` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `programmes_water` DISABLE KEYS */;
INSERT INTO `programmes_water` VALUES ('01900000-0000-7000-8000-000000000009','Ketterwick River','river','UTC','{\"type\": \"LineString\", \"coordinates\": [[10.0, 50.0], [10.1, 50.0], [10.2, 50.0]]}','01900000-0000-7000-8000-000000000001');
/*!40000 ALTER TABLE `programmes_water` ENABLE KEYS */;
DROP TABLE IF EXISTS `records_import`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `records_import` (
  `id` uuid NOT NULL,
  `file_name` varchar(200) NOT NULL,
  `sha256` varchar(64) NOT NULL,
  `bytes` int(10) unsigned NOT NULL CHECK (`bytes` >= 0),
  `packed` longblob NOT NULL,
  `state` varchar(5) NOT NULL,
  `preview` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`preview`)),
  `answers` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL CHECK (json_valid(`answers`)),
  `result` longtext CHARACTER SET utf8mb4 COLLATE utf8mb4_bin DEFAULT NULL CHECK (json_valid(`result`)),
  `rejects` longblob DEFAULT NULL,
  `made_at` datetime(6) NOT NULL,
  `in_at` datetime(6) DEFAULT NULL,
  `job_id` uuid DEFAULT NULL,
  `person_id` uuid NOT NULL,
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `records_import_job_id_c8ce6981_fk_jobs_job_id` (`job_id`),
  KEY `records_import_person_id_99949a7b_fk_programmes_person_id` (`person_id`),
  KEY `records_import_programme_id_b8f85c05_fk_programmes_programme_id` (`programme_id`),
  CONSTRAINT `records_import_job_id_c8ce6981_fk_jobs_job_id` FOREIGN KEY (`job_id`) REFERENCES `jobs_job` (`id`),
  CONSTRAINT `records_import_person_id_99949a7b_fk_programmes_person_id` FOREIGN KEY (`person_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `records_import_programme_id_b8f85c05_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `records_import` DISABLE KEYS */;
INSERT INTO `records_import` VALUES ('01a215b9-81d7-7b8c-a385-b06b8dce4f77','old.csv','774964b5c9fb2ab9776302e7d7e1b2ed2b9525220a3c3baa94ec612e357641ab',212,0x1F8B0800089C076B00FF958D3B0E833010447B4EE112A4455A1C1CE333D0E50291E36CCC2AE623BC0AD78F3B9432538C5E336F9E5E088E523B642E18C917DA28306548B44499543DCF0DCC3E6755C70636964AA3362D5E5BEC602429E383C35BDDF85334A381C7EAE54E8982ECEB8BF3C44B2C1F09FA4B07036A70CEE1197DEAF47FBA1E6130F8A3B3D6565FBA5C6F4FD4000000,'in','{\"how\": \"CSV, UTF-8, separated by comma\", \"notices\": [], \"about\": 3, \"evidence\": {}, \"remembered\": [], \"columns\": [{\"header\": \"date\", \"samples\": [\"2025-06-01\", \"2025-06-02\"], \"slashed\": \"\", \"date_order\": null}, {\"header\": \"water\", \"samples\": [\"Ketterwick River\"], \"slashed\": \"\", \"date_order\": null}, {\"header\": \"site\", \"samples\": [\"K5\"], \"slashed\": \"\", \"date_order\": null}, {\"header\": \"gear\", \"samples\": [\"boat_electrofishing\"], \"slashed\": \"\", \"date_order\": null}, {\"header\": \"species\", \"samples\": [\"wal\"], \"slashed\": \"\", \"date_order\": null}, {\"header\": \"length (mm)\", \"samples\": [\"431\", \"440\"], \"slashed\": \"\", \"date_order\": null}, {\"header\": \"mass (g)\", \"samples\": [\"802\", \"850\"], \"slashed\": \"\", \"date_order\": null}, {\"header\": \"pit\", \"samples\": [\"999000000000002\", \"999000000000777\"], \"slashed\": \"\", \"date_order\": null}]}','{\"columns\": [{\"header\": \"date\", \"key\": \"date\", \"unit\": null}, {\"header\": \"water\", \"key\": \"water\", \"unit\": null}, {\"header\": \"site\", \"key\": \"site\", \"unit\": null}, {\"header\": \"gear\", \"key\": \"gear\", \"unit\": null}, {\"header\": \"species\", \"key\": \"species\", \"unit\": null}, {\"header\": \"length (mm)\", \"key\": \"length\", \"unit\": \"mm\"}, {\"header\": \"mass (g)\", \"key\": \"mass\", \"unit\": \"g\"}, {\"header\": \"pit\", \"key\": \"pit\", \"unit\": null}], \"date_order\": null, \"mixed_dates\": false, \"decimal\": \".\", \"fixed\": {\"water\": \"01900000-0000-7000-8000-000000000009\"}, \"words\": {}, \"new_sites\": true, \"new_marks\": true}','{\"lines\": 2, \"good\": 2, \"there\": 0, \"bad\": 0, \"new\": {\"sites\": 0, \"outings\": 2, \"runs\": 2, \"fish\": 2}, \"rejects\": [], \"unknown\": {}, \"asks\": []}',NULL,'2026-11-26 02:40:08.663383','2026-11-26 02:40:08.679172',NULL,'01900000-0000-7000-8000-000000000005','01900000-0000-7000-8000-000000000001');
/*!40000 ALTER TABLE `records_import` ENABLE KEYS */;
DROP TABLE IF EXISTS `tags_fish`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `tags_fish` (
  `id` uuid NOT NULL,
  `species` varchar(8) NOT NULL,
  `server_time` datetime(6) NOT NULL,
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  KEY `tags_fish_programme_id_7087ccc6_fk_programmes_programme_id` (`programme_id`),
  CONSTRAINT `tags_fish_programme_id_7087ccc6_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `tags_fish` DISABLE KEYS */;
INSERT INTO `tags_fish` VALUES ('01a215b9-8009-7454-975a-7afebdaf5aef','wal','2026-11-26 02:40:08.201984','01900000-0000-7000-8000-000000000001');
INSERT INTO `tags_fish` VALUES ('01a215b9-81f1-7fe5-8dca-4161ff8d46cb','wal','2026-11-26 02:40:08.688408','01900000-0000-7000-8000-000000000001');
INSERT INTO `tags_fish` VALUES ('01a215b9-81f4-74b2-b2c6-72270a40e7cf','wal','2026-11-26 02:40:08.688708','01900000-0000-7000-8000-000000000001');
/*!40000 ALTER TABLE `tags_fish` ENABLE KEYS */;
DROP TABLE IF EXISTS `tags_placement`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `tags_placement` (
  `id` uuid NOT NULL,
  `device_time` datetime(6) NOT NULL,
  `server_time` datetime(6) NOT NULL,
  `deleted_at` datetime(6) DEFAULT NULL,
  `living_tag` uuid DEFAULT NULL,
  `capture_id` uuid NOT NULL,
  `fish_id` uuid NOT NULL,
  `recorder_id` uuid NOT NULL,
  `tag_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `living_tag` (`living_tag`),
  KEY `tags_placement_capture_id_5a87d63d_fk_deck_capture_id` (`capture_id`),
  KEY `tags_placement_fish_id_f5c345ed_fk_tags_fish_id` (`fish_id`),
  KEY `tags_placement_recorder_id_854de43f_fk_programmes_person_id` (`recorder_id`),
  KEY `tags_placement_tag_id_3e3a7d2e_fk_tags_tag_id` (`tag_id`),
  CONSTRAINT `tags_placement_capture_id_5a87d63d_fk_deck_capture_id` FOREIGN KEY (`capture_id`) REFERENCES `deck_capture` (`id`),
  CONSTRAINT `tags_placement_fish_id_f5c345ed_fk_tags_fish_id` FOREIGN KEY (`fish_id`) REFERENCES `tags_fish` (`id`),
  CONSTRAINT `tags_placement_recorder_id_854de43f_fk_programmes_person_id` FOREIGN KEY (`recorder_id`) REFERENCES `programmes_person` (`id`),
  CONSTRAINT `tags_placement_tag_id_3e3a7d2e_fk_tags_tag_id` FOREIGN KEY (`tag_id`) REFERENCES `tags_tag` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `tags_placement` DISABLE KEYS */;
INSERT INTO `tags_placement` VALUES ('01900000-0000-7000-8000-000000000027','2026-10-12 20:02:00.000000','2026-11-26 02:40:08.204941',NULL,'01900000-0000-7000-8000-000000000011','01900000-0000-7000-8000-000000000019','01a215b9-8009-7454-975a-7afebdaf5aef','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000011');
INSERT INTO `tags_placement` VALUES ('01900000-0000-7000-8000-000000000028','2026-10-12 20:02:00.000000','2026-11-26 02:40:08.217874',NULL,'01900000-0000-7000-8000-000000000014','01900000-0000-7000-8000-000000000019','01a215b9-8009-7454-975a-7afebdaf5aef','01900000-0000-7000-8000-000000000007','01900000-0000-7000-8000-000000000014');
INSERT INTO `tags_placement` VALUES ('01a215b9-81fb-7815-b668-bc12e8e50f02','2025-06-01 12:00:00.000000','2026-11-26 02:40:08.699156',NULL,'01900000-0000-7000-8000-000000000012','598fb378-a3b5-5dbb-8e72-63474762ce4a','01a215b9-81f1-7fe5-8dca-4161ff8d46cb','01900000-0000-7000-8000-000000000005','01900000-0000-7000-8000-000000000012');
INSERT INTO `tags_placement` VALUES ('01a215b9-81fd-749f-a55a-249c2eb44413','2025-06-02 12:00:00.000000','2026-11-26 02:40:08.699304',NULL,'01a215b9-81fc-7df4-abf7-945ee040e481','a1e80cee-96b7-5e3e-8003-66e269aca876','01a215b9-81f4-74b2-b2c6-72270a40e7cf','01900000-0000-7000-8000-000000000005','01a215b9-81fc-7df4-abf7-945ee040e481');
/*!40000 ALTER TABLE `tags_placement` ENABLE KEYS */;
DROP TABLE IF EXISTS `tags_tag`;
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8mb4 */;
CREATE TABLE `tags_tag` (
  `id` uuid NOT NULL,
  `kind` varchar(8) NOT NULL,
  `number` varchar(24) NOT NULL,
  `batch` varchar(40) NOT NULL,
  `state` varchar(8) NOT NULL,
  `programme_id` uuid NOT NULL,
  PRIMARY KEY (`id`),
  UNIQUE KEY `tag_number_once` (`programme_id`,`kind`,`number`),
  CONSTRAINT `tags_tag_programme_id_50e121ed_fk_programmes_programme_id` FOREIGN KEY (`programme_id`) REFERENCES `programmes_programme` (`id`)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
/*!40101 SET character_set_client = @saved_cs_client */;

/*!40000 ALTER TABLE `tags_tag` DISABLE KEYS */;
INSERT INTO `tags_tag` VALUES ('01900000-0000-7000-8000-000000000011','pit','999000000000001','spring','placed','01900000-0000-7000-8000-000000000001');
INSERT INTO `tags_tag` VALUES ('01900000-0000-7000-8000-000000000012','pit','999000000000002','spring','placed','01900000-0000-7000-8000-000000000001');
INSERT INTO `tags_tag` VALUES ('01900000-0000-7000-8000-000000000013','pit','999000000000003','spring','stock','01900000-0000-7000-8000-000000000001');
INSERT INTO `tags_tag` VALUES ('01900000-0000-7000-8000-000000000014','tbar','W1001','spring','placed','01900000-0000-7000-8000-000000000001');
INSERT INTO `tags_tag` VALUES ('01900000-0000-7000-8000-000000000015','tbar','W1002','spring','stock','01900000-0000-7000-8000-000000000001');
INSERT INTO `tags_tag` VALUES ('01900000-0000-7000-8000-000000000016','tbar','W1003','spring','stock','01900000-0000-7000-8000-000000000001');
INSERT INTO `tags_tag` VALUES ('01a215b9-81fc-7df4-abf7-945ee040e481','pit','999000000000777','','placed','01900000-0000-7000-8000-000000000001');
/*!40000 ALTER TABLE `tags_tag` ENABLE KEYS */;
/*!40103 SET TIME_ZONE=@OLD_TIME_ZONE */;

/*!40101 SET SQL_MODE=@OLD_SQL_MODE */;
/*!40014 SET FOREIGN_KEY_CHECKS=@OLD_FOREIGN_KEY_CHECKS */;
/*!40014 SET UNIQUE_CHECKS=@OLD_UNIQUE_CHECKS */;
/*!40101 SET CHARACTER_SET_CLIENT=@OLD_CHARACTER_SET_CLIENT */;
/*!40101 SET CHARACTER_SET_RESULTS=@OLD_CHARACTER_SET_RESULTS */;
/*!40101 SET COLLATION_CONNECTION=@OLD_COLLATION_CONNECTION */;
/*!40111 SET SQL_NOTES=@OLD_SQL_NOTES */;

