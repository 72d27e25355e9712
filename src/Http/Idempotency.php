<?php

declare(strict_types=1);

namespace App\Http;

use Doctrine\DBAL\Connection;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Event\RequestEvent;
use Symfony\Component\HttpKernel\Event\ResponseEvent;

/**
 * A POST with an Idempotency-Key is done once: sent again by the same person, it answers as the first time, while that person has the access
 * that they had.
 */
final readonly class Idempotency
{
    public function __construct(private Connection $connection, private Security $security)
    {
    }

    #[AsEventListener(priority: 4)]
    public function before(RequestEvent $event): void
    {
        $key = $this->key($event);
        if (null === $key) {
            return;
        }
        $row = $this->connection->fetchAssociative('SELECT status, body, members FROM idempotency WHERE key_hash = ?', [$key]);
        if (false !== $row && is_numeric($row['status']) && \is_string($row['body']) && \is_string($row['members'])) {
            $had = json_decode($row['members'], true);
            if (!\is_array($had) || [] !== array_diff($had, $this->members())) {
                $event->setResponse(Problem::response(409, 'This was done before; since then your access has changed, so that its answer is not given again.'));

                return;
            }
            $event->setResponse(new JsonResponse($row['body'], (int) $row['status'], ['Idempotent-Replay' => 'true'], true));
        }
    }

    #[AsEventListener]
    public function after(ResponseEvent $event): void
    {
        $key = $this->key($event);
        $response = $event->getResponse();
        if (null === $key || !$response->isSuccessful() || $response->headers->has('Idempotent-Replay')) {
            return;
        }
        $this->connection->executeStatement('INSERT INTO idempotency (key_hash, status, body, created_at, members) VALUES (?, ?, ?, ?, ?) ON CONFLICT (key_hash) DO NOTHING', [$key, $response->getStatusCode(), (string) $response->getContent(), time(), json_encode($this->members(), \JSON_THROW_ON_ERROR)]);
        $this->connection->executeStatement('DELETE FROM idempotency WHERE created_at < ?', [time() - 86400]);
    }

    /** @return list<string> the studies that the person is a member of, each with the role there */
    private function members(): array
    {
        $members = $this->connection->fetchFirstColumn("SELECT m.study_id || ' ' || m.role FROM study_member m JOIN study s ON s.id = m.study_id JOIN account_user u ON u.id = m.user_id WHERE s.deleted_at IS NULL AND u.login = ? ORDER BY m.study_id", [$this->security->getUser()?->getUserIdentifier()]);

        return array_values(array_filter($members, is_string(...)));
    }

    private function key(RequestEvent|ResponseEvent $event): ?string
    {
        $request = $event->getRequest();
        $key = (string) $request->headers->get('Idempotency-Key');
        $user = $this->security->getUser();

        return $event->isMainRequest() && 'POST' === $request->getMethod() && '' !== $key && null !== $user ? hash('sha256', $user->getUserIdentifier()."\0".$request->getPathInfo()."\0".$key) : null;
    }
}
