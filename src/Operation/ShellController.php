<?php

declare(strict_types=1);

namespace App\Operation;

use App\Http\SecurityHeaders;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

/** Every address that is not the API's gets the front end, which finds its screen from the address. */
final readonly class ShellController
{
    public function __construct(private string $projectDirectory)
    {
    }

    #[Route('/{path}', requirements: ['path' => '^(?!api/|app/).*'], methods: ['GET'], priority: -100)]
    public function __invoke(): Response
    {
        $html = @file_get_contents($this->projectDirectory.'/public/app/index.html');

        return false === $html
            ? new Response('<!doctype html><title>Dokimos</title><p>The front end has not been built. Run <code>make demo</code> or <code>make start</code>.', 503)
            : self::page($html);
    }

    /** The styles that the front end makes while it runs carry what was drawn for this page alone; no others are taken. */
    private static function page(string $html): Response
    {
        $nonce = bin2hex(random_bytes(16));
        $response = new Response(str_replace('<head>', '<head><meta name="style-nonce" content="'.$nonce.'">', $html), 200, ['Cache-Control' => 'no-store']);
        SecurityHeaders::put($response->headers, $nonce);

        return $response;
    }
}
