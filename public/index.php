<?php

declare(strict_types=1);

use App\Http\LastResort;
use App\Kernel;
use App\Operation\Environment;
use Symfony\Component\HttpFoundation\Request;

require dirname(__DIR__).'/vendor/autoload.php';

// The built-in server hands every address to this script: let it serve the front end's own files itself.
if (\PHP_SAPI === 'cli-server') {
    $file = __DIR__.parse_url($_SERVER['REQUEST_URI'], \PHP_URL_PATH);
    if (is_file($file) && str_starts_with((string) realpath($file), __DIR__.'/app/')) {
        return false;
    }
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
