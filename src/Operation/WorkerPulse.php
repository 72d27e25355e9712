<?php

declare(strict_types=1);

namespace App\Operation;

use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\Messenger\Event\WorkerRunningEvent;
use Symfony\Component\Messenger\Event\WorkerStartedEvent;
use Symfony\Component\Messenger\Event\WorkerStoppedEvent;

/** A worker's sign of life: a small file that it touches every few seconds. */
final class WorkerPulse
{
    private const FRESH = 90;
    private int $next = 0;

    public function __construct(private readonly string $dataDirectory)
    {
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
    }

    #[AsEventListener]
    public function stopped(WorkerStoppedEvent $event): void
    {
        @unlink($this->file());
    }

    private function file(): string
    {
        return self::folder($this->dataDirectory).'/'.getmypid().'.json';
    }

    private static function folder(string $data): string
    {
        return $data.'/workers';
    }

    /** @return list<array{lanes: list<string>, jit: bool, pid: int}> workers that were alive in the last minute and a half, or whose process is there */
    public static function all(string $data): array
    {
        $workers = [];
        foreach (glob(self::folder($data).'/*.json') ?: [] as $file) {
            /** @var array{lanes: list<string>, jit: bool, pid: int}|null $worker */
            $worker = json_decode((string) @file_get_contents($file), true);
            if (null !== $worker) {
                // In the middle of long work it gives no sign, but its process is there.
                if ((int) @filemtime($file) > time() - self::FRESH || posix_kill($worker['pid'], 0)) {
                    $workers[] = $worker;
                }
            }
        }

        return $workers;
    }
}
