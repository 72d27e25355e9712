<?php

declare(strict_types=1);

use App\Http\FrontEndFile;
use App\Http\LastResort;
use App\Kernel;
use App\Operation\Environment;
use Symfony\Component\HttpFoundation\Request;

require dirname(__DIR__).'/vendor/autoload.php';

// The built-in server hands every address to this script: files of the front end are answered with the same headers as everything else.
if (\PHP_SAPI === 'cli-server' && FrontEndFile::answer(__DIR__, (string) parse_url($_SERVER['REQUEST_URI'], \PHP_URL_PATH))) {
    return;
}

// Services answer without a kernel.
if (\PHP_SAPI === 'cli-server' && str_starts_with((string) parse_url($_SERVER['REQUEST_URI'], \PHP_URL_PATH), '/serve/')) {
    require __DIR__.'/serve.php';

    return;
}

try {
    Environment::load(dirname(__DIR__));
    $kernel = new Kernel($_SERVER['APP_ENV'], 'dev' === $_SERVER['APP_ENV']);
    $request = Request::createFromGlobals();
    $response = $kernel->handle($request);
    $response->send();
    $kernel->terminate($request, $response);
} catch (Throwable $e) {
    // Before there is a kernel that could answer, or where it cannot: a sentence all the same, and no trace of the program.
    error_log($e->getMessage());
    LastResort::answer($e)->send();
}
