<?php

declare(strict_types=1);

namespace App\Source;

/** The connections of one person, and the servers that may be chosen. */
final readonly class ConnectionsView
{
    /**
     * @param list<string>         $hosts       as the operator lists them
     * @param list<ConnectionView> $connections
     */
    public function __construct(public array $hosts, public array $connections)
    {
    }
}
