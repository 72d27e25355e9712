<?php

declare(strict_types=1);

use App\Operation\Environment;
use App\Service\Door;

// The door of services: behind a web server it is called directly, the built-in one comes here from index.php.
require_once dirname(__DIR__).'/vendor/autoload.php';

try {
    Environment::load(dirname(__DIR__));
    $shown = (string) ($_SERVER['HTTP_AUTHORIZATION'] ?? '');
    [$status, $said] = (new Door($_SERVER['DOKIMOS_DATA']))->answer(
        (string) $_SERVER['REQUEST_METHOD'],
        (string) parse_url((string) $_SERVER['REQUEST_URI'], \PHP_URL_PATH),
        str_starts_with($shown, 'Bearer ') ? trim(substr($shown, 7)) : '',
        (string) file_get_contents('php://input', false, null, 0, 2_200_000),
        isset($_GET['reasons']) && '0' !== $_GET['reasons'],
    );
} catch (Throwable $e) {
    error_log($e->getMessage());
    [$status, $said] = [500, ['title' => 'Something went wrong here. Nothing was kept of the call.']];
}
http_response_code($status);
header('Content-Type: '.($status < 300 ? 'application/json' : 'application/problem+json'));
header('Cache-Control: no-store');
header('X-Content-Type-Options: nosniff');
if (isset($said['retry_after'])) {
    header('Retry-After: '.$said['retry_after']);
}
echo json_encode(
    $status < 300 || isset($said['refused']) ? $said : ['type' => 'about:blank', 'status' => $status] + $said,
    \JSON_PRESERVE_ZERO_FRACTION | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES,
);
