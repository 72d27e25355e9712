<?php

declare(strict_types=1);

use App\Operation\Environment;

require dirname(__DIR__).'/vendor/autoload.php';

$_SERVER['APP_ENV'] = $_ENV['APP_ENV'] = 'test';
$_SERVER['DOKIMOS_DATA'] = $_ENV['DOKIMOS_DATA'] = (string) (getenv('DOKIMOS_TEST_DATA') ?: dirname(__DIR__).'/var/test-data');
putenv('DOKIMOS_DATA='.$_SERVER['DOKIMOS_DATA']);
Environment::load(dirname(__DIR__));
