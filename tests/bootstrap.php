<?php

declare(strict_types=1);

use App\Operation\Environment;
use Dokimos\Core\Tests\PostgresCluster;

require dirname(__DIR__).'/vendor/autoload.php';

$_SERVER['APP_ENV'] = $_ENV['APP_ENV'] = 'test';
$_SERVER['DOKIMOS_DATA'] = $_ENV['DOKIMOS_DATA'] = (string) (getenv('DOKIMOS_TEST_DATA') ?: dirname(__DIR__).'/var/test-data');
// The same tests on the other store: make test-postgres.
if ('postgres' === getenv('DOKIMOS_TEST_STORE')) {
    $_SERVER['DOKIMOS_DATA'] = $_ENV['DOKIMOS_DATA'] .= '-postgres';
    $_SERVER['DATABASE_URL'] = $_ENV['DATABASE_URL'] = PostgresCluster::store();
    putenv('DATABASE_URL='.$_SERVER['DATABASE_URL']);
}
putenv('DOKIMOS_DATA='.$_SERVER['DOKIMOS_DATA']);
Environment::load(dirname(__DIR__));
