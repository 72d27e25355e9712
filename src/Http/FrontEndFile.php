<?php

declare(strict_types=1);

namespace App\Http;

use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Request;

/** A file of the built front end, without starting the application for it. Behind another web server that one serves them. */
final class FrontEndFile
{
    private const TYPES = ['js' => 'text/javascript; charset=utf-8', 'css' => 'text/css; charset=utf-8', 'woff2' => 'font/woff2', 'svg' => 'image/svg+xml', 'png' => 'image/png', 'ico' => 'image/x-icon', 'json' => 'application/json', 'map' => 'application/json', 'txt' => 'text/plain; charset=utf-8'];
    /** Names of assets carry a hash of what is in them. */
    private const KEPT = 'public, max-age=31536000, immutable';

    /** @return bool whether there was such a file */
    public static function answer(string $folder, string $path): bool
    {
        $file = realpath($folder.$path);
        $type = self::TYPES[strtolower(pathinfo($path, \PATHINFO_EXTENSION))] ?? null;
        if (false === $file || null === $type || !is_file($file) || !str_starts_with($file, $folder.'/app/')) {
            return false;
        }
        $response = new BinaryFileResponse($file, 200, ['Content-Type' => $type]);
        $response->setAutoEtag()->setAutoLastModified();
        $response->headers->set('Cache-Control', str_contains($path, '/assets/') ? self::KEPT : 'no-cache');
        SecurityHeaders::put($response->headers);
        $request = Request::createFromGlobals();
        $response->isNotModified($request);
        $response->prepare($request)->send();

        return true;
    }
}
