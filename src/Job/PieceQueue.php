<?php

declare(strict_types=1);

namespace App\Job;

use App\Storage\Store;
use Doctrine\DBAL\Connection;
use Doctrine\DBAL\ParameterType;

/** Hands pieces to workers. A claim is a lease: a worker that dies stops renewing it and the piece is handed out again. */
final class PieceQueue
{
    public const LEASE = 20.0;
    public const MOST_ATTEMPTS = 2;
    /** Seconds for which a piece may be silent: work that never ends is not kept alive for ever. */
    public const SILENT = 1800.0;

    /** @var array<int, float> when a piece of this process was begun, or said last how far it is */
    private array $heard = [];

    public function __construct(private readonly Connection $connection, private readonly Store $store)
    {
    }

    /**
     * A piece of the oldest work whose user has the fewest pieces running: users take turns, and what was begun first is done first, its
     * last piece too, which comes when the others are done.
     */
    public function claim(string $lane, string $worker): ?int
    {
        // A look without the write lock first: idle workers must not hold up the others.
        if (null === $this->scalar(
            "SELECT 1 FROM job_piece WHERE lane = ? AND (state = 'waiting' OR state = 'running' AND lease_until < ?) LIMIT 1",
            [$lane, $now = $this->store->now()],
        )) {
            return null;
        }

        return $this->connection->transactional(function () use ($lane, $worker, $now): ?int {
            $id = $this->candidate($lane, $now);
            if (null === $id) {
                return null;
            }
            $this->connection->executeStatement(
                'UPDATE job_piece SET state = ?, attempts = attempts + 1, lease_until = ?, worker = ? WHERE id = ?',
                [Job::RUNNING, $now + self::LEASE, $worker, $id],
            );
            $this->connection->executeStatement(
                'UPDATE job SET state = ?, started_at = COALESCE(started_at, ?) WHERE id = (SELECT job_id FROM job_piece WHERE id = ?) AND state = ?',
                [Job::RUNNING, $now, $id, Job::WAITING],
            );
            $this->heard = [$id => $now];

            return $id;
        });
    }

    private function candidate(string $lane, float $now): ?int
    {
        $id = $this->connection->fetchOne(
            "SELECT p.id FROM job_piece p JOIN job j ON j.id = p.job_id
             LEFT JOIN (SELECT k.user_id, COUNT(*) AS busy FROM job_piece r JOIN job k ON k.id = r.job_id WHERE r.state = 'running' AND r.lease_until >= ? GROUP BY k.user_id) b ON b.user_id = j.user_id
             WHERE p.lane = ? AND (p.state = 'waiting' OR p.state = 'running' AND p.lease_until < ?)
             ORDER BY COALESCE(b.busy, 0), p.job_id, p.id LIMIT 1".$this->store->choosing(),
            [$now, $lane, $now],
        );

        return is_numeric($id) ? (int) $id : null;
    }

    public function renew(int $piece, float $share): void
    {
        $now = $this->store->now();
        $this->heard[$piece] = $now;
        $this->connection->executeStatement(
            'UPDATE job_piece SET lease_until = ?, share = ? WHERE id = ? AND state = ?',
            [$now + self::LEASE, $share, $piece, Job::RUNNING],
        );
    }

    /**
     * A worker lives that has nothing to say of its piece: one step of the work may take longer than a lease. What was cancelled is let go.
     */
    public function beat(int $piece, string $worker): void
    {
        // Within a transaction of the work nobody else would see it, and should it fail the transaction would too: the next one follows.
        if ($this->connection->isTransactionActive()) {
            return;
        }
        $now = $this->store->now();
        if ($now - ($this->heard[$piece] ?? $now) < self::SILENT && !$this->isCancelled($piece)) {
            $this->connection->executeStatement(
                'UPDATE job_piece SET lease_until = ? WHERE id = ? AND state = ? AND worker = ?',
                [$now + self::LEASE, $piece, Job::RUNNING, $worker],
            );
        }
    }

    /**
     * A worker is known to be gone: what it held is handed out again at once.
     *
     * @param bool $byItself it fell over, most likely on this work; being stopped costs no attempt
     */
    public function release(string $worker, bool $byItself): void
    {
        try {
            $this->connection->executeStatement(
                'UPDATE job_piece SET lease_until = 0, waiting_since = ?, attempts = attempts - ? WHERE worker = ? AND state = ?',
                [$this->store->now(), $byItself ? 0 : 1, $worker, Job::RUNNING],
            );
        } finally {
            // The next process forked from here must not share an open database file.
            $this->connection->close();
        }
    }

    public function isCancelled(int $piece): bool
    {
        return null !== $this->scalar(
            'SELECT 1 FROM job j JOIN job_piece p ON p.job_id = j.id WHERE p.id = ? AND j.cancel_requested = ?',
            [$piece, true],
            [1 => ParameterType::BOOLEAN],
        );
    }

    /**
     * Marks a piece done. The one that finishes last, and only that one, makes the joining piece.
     */
    public function complete(Piece $piece): void
    {
        $this->connection->transactional(function () use ($piece): void {
            $changed = $this->connection->executeStatement(
                "UPDATE job_piece SET state = 'done', share = 1, lease_until = NULL WHERE id = ? AND state = 'running'",
                [$piece->id()],
            );
            $job = $piece->job()->id();
            // Of two that finish at the same moment the second sees that it is the last.
            $this->store->alone('job', $job);
            if (0 === $changed || (int) $this->scalar("SELECT COUNT(*) FROM job_piece WHERE job_id = ? AND state <> 'done'", [$job]) > 0) {
                return;
            }
            if (Piece::JOIN === $piece->key() || 1 === $piece->job()->pieces()) {
                $this->connection->executeStatement(
                    "UPDATE job SET state = 'done', ended_at = ? WHERE id = ?",
                    [$this->store->now(), $job],
                );

                return;
            }
            $this->connection->executeStatement(
                "INSERT INTO job_piece (job_id, piece_key, lane, payload, state, attempts, share, waiting_since) VALUES (?, ?, ?, '[]', 'waiting', 0, 0, ?)",
                [$job, Piece::JOIN, $piece->lane(), $this->store->now()],
            );
        });
    }

    /** Ends a whole job: pieces not yet done are dropped. False when it was over already. */
    public function end(int $job, string $state, ?string $message): bool
    {
        return $this->connection->transactional(function () use ($job, $state, $message): bool {
            $changed = $this->connection->executeStatement(
                "UPDATE job SET state = ?, message = ?, ended_at = ? WHERE id = ? AND state IN ('waiting', 'running')",
                [$state, null === $message ? null : mb_substr($message, 0, 400), $this->store->now(), $job],
            );
            $this->connection->executeStatement(
                "UPDATE job_piece SET state = ? WHERE job_id = ? AND state IN ('waiting', 'running')",
                [$state, $job],
            );

            return $changed > 0;
        });
    }

    /**
     * @param list<int|float|string|bool>       $parameters
     * @param array<int<0, max>, ParameterType> $types
     */
    private function scalar(string $sql, array $parameters, array $types = []): int|string|null
    {
        $value = $this->connection->fetchOne($sql, $parameters, $types);

        return \is_int($value) || \is_string($value) ? $value : null;
    }
}
