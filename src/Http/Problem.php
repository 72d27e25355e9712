<?php

declare(strict_types=1);

namespace App\Http;

use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Exception\HttpException;

/** An error as RFC 9457 describes it: a plain sentence, and the field concerned when there is one. */
final class Problem extends HttpException
{
    /** @param array<string, mixed> $more */
    public function __construct(int $status, string $sentence, public readonly ?string $field = null, public readonly array $more = [], ?\Throwable $previous = null)
    {
        parent::__construct($status, $sentence, $previous);
    }

    public static function invalid(string $sentence, ?string $field = null): self
    {
        return new self(422, $sentence, $field);
    }

    public static function notFound(string $what): self
    {
        return new self(404, \sprintf('There is no such %s, or you have no access to it.', $what));
    }

    /** @param array<string, mixed> $more */
    public static function response(int $status, string $sentence, ?string $field = null, array $more = []): JsonResponse
    {
        $body = ['type' => 'about:blank', 'title' => $sentence, 'status' => $status, 'field' => $field] + $more;

        return new JsonResponse(array_filter($body, static fn (mixed $v) => null !== $v), $status, ['Content-Type' => 'application/problem+json']);
    }
}
