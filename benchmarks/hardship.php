<?php

declare(strict_types=1);

/**
 * make hardship, make torture: kills, searches, a full disk, doors and load, on an installation of its own.
 * hardship.php [kills|searches|disk|doors|load|torture ...]
 * The full disk is a small file system in memory, for which the system has to allow mounting; otherwise that part is left out and said so.
 */
require __DIR__.'/../vendor/autoload.php';
require __DIR__.'/hardship/Installation.php';

use Dokimos\Core\Tests\PostgresCluster;

$root = dirname(__DIR__);
if ('postgres' === ($_SERVER['STORE'] ?? '')) {
    require_once $root.'/core/tests/PostgresCluster.php';
    putenv('DATABASE_URL='.($_SERVER['DATABASE_URL'] = $_ENV['DATABASE_URL'] = PostgresCluster::store()));
}
$parts = array_slice($argv, 1) ?: ['kills', 'searches', 'disk', 'doors', 'load'];
$good = true;
$line = static function (string $what, string $measured, ?bool $kept = null) use (&$good): void {
    $good = $good && false !== $kept;
    printf("%-92s %-34s %s\n", $what, $measured, null === $kept ? '' : ($kept ? 'kept' : 'NOT KEPT'));
};
foreach ($parts as $part) {
    require __DIR__.'/hardship/'.preg_replace('/\W/', '', $part).'.php';
}
exit($good ? 0 : 1);
