<?php

declare(strict_types=1);

namespace App\Operation;

use App\Job\Machine;
use App\Job\PieceTransport;
use App\Storage\Store;
use Doctrine\DBAL\Connection;
use Doctrine\DBAL\ParameterType;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\Messenger\Event\WorkerRunningEvent;
use Symfony\Component\Messenger\Event\WorkerStartedEvent;
use Symfony\Component\Messenger\Event\WorkerStoppedEvent;

/**
 * A worker's sign of life: a small file that it touches every few seconds, which those of its machine look at; in a store that several
 * machines share a row too, for all others.
 */
final class WorkerPulse
{
    private const FRESH = 90;
    private int $next = 0;

    public function __construct(
        private readonly string $dataDirectory,
        private readonly Connection $connection,
        private readonly Store $store,
    ) {
    }

    #[AsEventListener(WorkerStartedEvent::class)]
    #[AsEventListener(WorkerRunningEvent::class)]
    public function beat(WorkerStartedEvent|WorkerRunningEvent $event): void
    {
        if (time() < $this->next) {
            return;
        }
        $this->next = time() + 5;
        $status = \function_exists('opcache_get_status') ? @opcache_get_status(false) : false;
        $jit = \is_array($status) && true === ($status['jit']['on'] ?? false);
        @mkdir($this->folder($this->dataDirectory), 0770, true);
        $says = json_encode(['lanes' => $event->getWorker()->getMetadata()->getTransportNames(), 'jit' => $jit, 'pid' => getmypid()], \JSON_THROW_ON_ERROR);
        // Written once: on a full disk writing anew would leave an empty file, while its time can still be set.
        if ($says === @file_get_contents($this->file())) {
            touch($this->file());
        } else {
            @file_put_contents($this->file(), $says);
        }
        if ($this->store->isShared()) {
            $this->tell(implode(',', $event->getWorker()->getMetadata()->getTransportNames()), $jit);
        }
    }

    #[AsEventListener]
    public function stopped(WorkerStoppedEvent $event): void
    {
        @unlink($this->file());
        if ($this->store->isShared()) {
            $this->connection->executeStatement('DELETE FROM worker WHERE name = ?', [PieceTransport::worker((int) getmypid())]);
        }
    }

    private function tell(string $lanes, bool $jit): void
    {
        $this->connection->executeStatement(
            'INSERT INTO worker (name, machine, pid, lanes, jit, seen) VALUES (?, ?, ?, ?, ?, ?)'
            .' ON CONFLICT (name) DO UPDATE SET lanes = excluded.lanes, jit = excluded.jit, seen = excluded.seen',
            [PieceTransport::worker((int) getmypid()), Machine::name(), getmypid(), $lanes, $jit, $this->store->now()],
            [4 => ParameterType::BOOLEAN],
        );
    }

    private function file(): string
    {
        return self::folder($this->dataDirectory).'/'.getmypid().'.json';
    }

    private static function folder(string $data): string
    {
        return $data.'/workers';
    }

    /**
     * Workers that were alive in the last minute and a half, or whose process is there; of other machines those that share the store.
     *
     * @return list<array{lanes: list<string>, jit: bool, pid: int, machine: string}>
     */
    public static function all(string $data, Connection $connection, Store $store): array
    {
        $workers = self::here($data);
        foreach ($store->isShared() ? $connection->fetchAllAssociative(
            'SELECT machine, pid, lanes, jit FROM worker WHERE machine <> ? AND seen > ? ORDER BY machine, pid',
            [Machine::name(), $store->now() - self::FRESH],
        ) : [] as $row) {
            $workers[] = [
                'lanes' => explode(',', \is_string($row['lanes']) ? $row['lanes'] : ''),
                'jit' => (bool) $row['jit'],
                'pid' => is_numeric($row['pid']) ? (int) $row['pid'] : 0,
                'machine' => \is_string($row['machine']) ? $row['machine'] : '',
            ];
        }

        return $workers;
    }

    /** @return list<array{lanes: list<string>, jit: bool, pid: int, machine: string}> those of this machine */
    public static function here(string $data): array
    {
        $workers = [];
        foreach (glob(self::folder($data).'/*.json') ?: [] as $file) {
            /** @var array{lanes: list<string>, jit: bool, pid: int}|null $worker */
            $worker = json_decode((string) @file_get_contents($file), true);
            if (null !== $worker) {
                // In the middle of long work it gives no sign, but its process is there.
                if ((int) @filemtime($file) > time() - self::FRESH || posix_kill($worker['pid'], 0)) {
                    $workers[] = $worker + ['machine' => Machine::name()];
                }
            }
        }

        return $workers;
    }
}
