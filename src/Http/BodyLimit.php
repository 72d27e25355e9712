<?php

declare(strict_types=1);

namespace App\Http;

use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpKernel\Event\RequestEvent;

/** Refuses requests that are larger than anything the application asks for, before they are read. */
final class BodyLimit
{
    private const PIECE = 9 << 20;
    private const OTHER = 2 << 20;

    #[AsEventListener(priority: 300)]
    public function __invoke(RequestEvent $event): void
    {
        $request = $event->getRequest();
        $isPiece = 1 === preg_match('#^/api/uploads/\d+/pieces$#', $request->getPathInfo());
        $length = $request->headers->get('Content-Length');
        $bytes = is_numeric($length) ? (int) $length : 0;
        if ($bytes > ($isPiece ? self::PIECE : self::OTHER) || null === $length && $request->headers->has('Transfer-Encoding')) {
            $event->setResponse(Problem::response(413, 'That is too much in one request; files are sent in pieces of at most 8 MB, everything else has at most 2 MB.'));
        }
    }
}
