<?php

declare(strict_types=1);

namespace App\Job;

use Symfony\Component\Messenger\Transport\Serialization\SerializerInterface;
use Symfony\Component\Messenger\Transport\TransportFactoryInterface;
use Symfony\Component\Messenger\Transport\TransportInterface;

/**
 * Makes transports from "pieces://lane".
 *
 * @implements TransportFactoryInterface<PieceTransport>
 */
final readonly class PieceTransportFactory implements TransportFactoryInterface
{
    public function __construct(private PieceQueue $queue)
    {
    }

    /** @param array<mixed> $options */
    public function createTransport(string $dsn, array $options, SerializerInterface $serializer): TransportInterface
    {
        return new PieceTransport($this->queue, substr($dsn, \strlen('pieces://')));
    }

    /** @param array<mixed> $options */
    public function supports(string $dsn, array $options): bool
    {
        return str_starts_with($dsn, 'pieces://');
    }
}
