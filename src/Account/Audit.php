<?php

declare(strict_types=1);

namespace App\Account;

use App\Storage\Store;
use Doctrine\DBAL\Connection;
use Symfony\Component\HttpFoundation\RequestStack;

/**
 * Who signed in, was let in, shut out or given rights, and what left the installation: written, never changed by the application. Each
 * entry holds the hash of the one before it, so that one which was changed or taken out in the store is found.
 */
final readonly class Audit
{
    private const SHOWN = 200;

    public function __construct(private Connection $connection, private Store $store, private RequestStack $requests)
    {
    }

    public function note(string $who, string $what): void
    {
        $this->connection->transactional(function () use ($who, $what): void {
            $this->store->alone('audit', 0);
            $last = $this->connection->fetchOne('SELECT hash FROM audit ORDER BY id DESC LIMIT 1');
            $entry = [
                'at' => round($this->store->now(), 3),
                'who' => mb_substr($who, 0, 120),
                'what' => mb_substr($what, 0, 400),
                'address' => mb_substr((string) $this->requests->getMainRequest()?->getClientIp(), 0, 60),
            ];
            $this->connection->insert('audit', $entry + ['hash' => self::hash(\is_string($last) ? $last : '', $entry)]);
        });
    }

    /** @return list<AuditView> the newest first */
    public function newest(): array
    {
        return array_map(static fn (array $row): AuditView => new AuditView(
            self::text($row['who']),
            self::text($row['what']),
            self::text($row['address']),
            gmdate(\DATE_ATOM, (int) (is_numeric($row['at']) ? $row['at'] : 0)),
        ), $this->connection->fetchAllAssociative('SELECT at, who, what, address FROM audit ORDER BY id DESC LIMIT '.self::SHOWN));
    }

    /** @return ?int the number of the first entry that is not as it was written, or follows one that is gone; null where all is well */
    public function broken(): ?int
    {
        $before = '';
        foreach ($this->connection->iterateAssociative('SELECT id, at, who, what, address, hash FROM audit ORDER BY id') as $row) {
            $own = self::text($row['hash']);
            $entry = [
                'at' => is_numeric($row['at']) ? (float) $row['at'] : 0.0,
                'who' => self::text($row['who']),
                'what' => self::text($row['what']),
                'address' => self::text($row['address']),
            ];
            if ($own !== self::hash($before, $entry)) {
                return is_numeric($row['id']) ? (int) $row['id'] : 0;
            }
            $before = $own;
        }

        return null;
    }

    /** @param array{at: float, who: string, what: string, address: string} $entry */
    private static function hash(string $before, array $entry): string
    {
        return hash('sha256', $before."\0".pack('e', $entry['at'])."\0".$entry['who']."\0".$entry['what']."\0".$entry['address']);
    }

    private static function text(mixed $value): string
    {
        return \is_scalar($value) ? (string) $value : '';
    }
}
