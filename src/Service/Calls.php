<?php

declare(strict_types=1);

namespace App\Service;

use App\Storage\Store;
use Doctrine\ORM\EntityManagerInterface;

/** Folds noted calls into counts by service, version, caller and day. */
final readonly class Calls
{
    public const FILE = 'serve-calls.log';

    public function __construct(private EntityManagerInterface $entities, private Store $store, private string $dataDirectory)
    {
    }

    /** Whether calls were noted on this machine that are not counted yet. */
    public static function areNoted(string $dataDirectory): bool
    {
        clearstatcache(true, $dataDirectory.'/'.self::FILE);

        return (int) @filesize($dataDirectory.'/'.self::FILE) > 0;
    }

    /** @return int how many calls of this machine were counted */
    public function fold(): int
    {
        if (!self::areNoted($this->dataDirectory) || false === $file = fopen($this->dataDirectory.'/'.self::FILE, 'c+')) {
            return 0;
        }
        // Whoever notes a call meanwhile waits until it is emptied: none is counted twice, and none is lost.
        flock($file, \LOCK_EX);
        $folded = $this->entities->getConnection()->transactional(function () use ($file): int {
            // Of several machines that add to the same counts one does after the other.
            $this->store->alone('calls', 0);
            $tallies = [];
            $folded = 0;
            while (\is_string($line = fgets($file))) {
                $call = json_decode($line, true);
                if (\is_array($call)) {
                    $this->add($call, $tallies);
                    ++$folded;
                }
            }
            $this->entities->flush();

            return $folded;
        });
        ftruncate($file, 0);
        fclose($file);

        return $folded;
    }

    /**
     * @param array<mixed>                $call
     * @param array<string, ServiceTally> $tallies
     */
    private function add(array $call, array &$tallies): void
    {
        $whole = static fn (string $key): int => \is_int($call[$key] ?? null) ? $call[$key] : 0;
        $at = (new \DateTimeImmutable())->setTimestamp($whole('at'));
        $key = implode(' ', [$whole('s'), $whole('v'), $whole('t'), $at->format('Y-m-d')]);
        if (!isset($tallies[$key])) {
            $service = $this->entities->find(Service::class, $whole('s'));
            $token = $this->entities->find(ServiceToken::class, $whole('t'));
            if (null === $service || null === $token) {
                return;
            }
            $tallies[$key] = $this->entities->getRepository(ServiceTally::class)->findOneBy([
                'service' => $service, 'version' => $whole('v'), 'token' => $token, 'day' => $at->format('Y-m-d'),
            ]) ?? new ServiceTally($service, $whole('v'), $token, $at->format('Y-m-d'));
            $this->entities->persist($tallies[$key]);
        }
        /** @var array<array-key, array<array-key, int>> $columns */
        $columns = \is_array($call['c'] ?? null) ? $call['c'] : [];
        $tallies[$key]->add($whole('n'), $whole('r'), is_numeric($call['ms'] ?? null) ? (float) $call['ms'] : 0.0, $columns, $at);
    }
}
