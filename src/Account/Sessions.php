<?php

declare(strict_types=1);

namespace App\Account;

use App\Storage\Store;
use Doctrine\DBAL\Connection;
use Doctrine\DBAL\ParameterType;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\HttpFoundation\RequestStack;
use Symfony\Component\HttpFoundation\Session\Storage\Handler\AbstractSessionHandler;
use Symfony\Component\Security\Core\Authentication\Token\Storage\TokenStorageInterface;

/**
 * Sessions in the store, so that several web servers serve one installation and a person sees where they are signed in. What is kept is a
 * hash of the cookie: who reads the store cannot take a session over. One that did not change is not written anew: where that cannot be
 * written, as on a full disk, nobody is signed out.
 */
final class Sessions extends AbstractSessionHandler
{
    /** Seconds between two notes that a session is alive. */
    private const NOTED = 300.0;

    /** When the session that was read was noted last. */
    private float $seen = 0.0;

    public function __construct(
        private readonly Connection $connection,
        private readonly Store $store,
        private readonly RequestStack $requests,
        #[Autowire(service: 'security.untracked_token_storage')]
        private readonly TokenStorageInterface $tokens,
        #[Autowire(param: 'session.seconds')]
        private readonly int $seconds,
    ) {
    }

    public static function hash(string $id): string
    {
        return hash('sha256', $id);
    }

    protected function doRead(string $sessionId): string
    {
        $row = $this->connection->fetchAssociative(
            'SELECT content, seen FROM session WHERE id_hash = ? AND seen > ?',
            [self::hash($sessionId), $this->store->now() - $this->seconds],
        );
        $kept = false === $row ? '' : $row['content'];
        $this->seen = false !== $row && is_numeric($row['seen']) ? (float) $row['seen'] : 0.0;

        return \is_resource($kept) ? (string) stream_get_contents($kept) : (\is_string($kept) ? $kept : '');
    }

    protected function doWrite(string $sessionId, string $data): bool
    {
        $user = $this->tokens->getToken()?->getUser();
        $request = $this->requests->getMainRequest();
        $now = $this->store->now();
        $this->connection->executeStatement(
            'INSERT INTO session (id_hash, user_id, content, began, seen, address, agent) VALUES (?, ?, ?, ?, ?, ?, ?)'
            .' ON CONFLICT (id_hash) DO UPDATE SET user_id = excluded.user_id, content = excluded.content, seen = excluded.seen,'
            .' address = excluded.address, agent = excluded.agent',
            [
                self::hash($sessionId),
                $user instanceof User ? $user->id() : null,
                $data,
                $now,
                $now,
                mb_substr((string) $request?->getClientIp(), 0, 60),
                mb_substr((string) $request?->headers->get('User-Agent'), 0, 200),
            ],
            [2 => ParameterType::LARGE_OBJECT],
        );

        return true;
    }

    protected function doDestroy(string $sessionId): bool
    {
        $this->connection->executeStatement('DELETE FROM session WHERE id_hash = ?', [self::hash($sessionId)]);

        return true;
    }

    public function updateTimestamp(string $sessionId, string $data): bool
    {
        try {
            $now = $this->store->now();
            // A statement that would change nothing waits for those who write all the same.
            if ($this->seen < $now - self::NOTED) {
                $this->connection->executeStatement(
                    'UPDATE session SET seen = ? WHERE id_hash = ? AND seen < ?',
                    [$now, self::hash($sessionId), $now - self::NOTED],
                );
            }
        } catch (\Throwable) {
            // Reading goes on.
        }

        return true;
    }

    public function close(): bool
    {
        return true;
    }

    public function gc(int $max_lifetime): int
    {
        return (int) $this->connection->executeStatement('DELETE FROM session WHERE seen < ?', [$this->store->now() - $this->seconds]);
    }
}
