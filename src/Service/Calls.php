<?php

declare(strict_types=1);

namespace App\Service;

use Doctrine\ORM\EntityManagerInterface;

/** Folds noted calls into counts by service, version, caller and day. */
final readonly class Calls
{
    public const FILE = 'serve-calls.log';

    public function __construct(private EntityManagerInterface $entities, private string $dataDirectory)
    {
    }

    public function fold(): void
    {
        $path = $this->dataDirectory.'/'.self::FILE;
        if (!is_file($path) || 0 === filesize($path)) {
            return;
        }
        $file = fopen($path, 'c+');
        if (false === $file) {
            return;
        }
        // Whoever notes a call meanwhile waits until it is emptied: none is counted twice, and none is lost.
        flock($file, \LOCK_EX);
        $tallies = [];
        while (\is_string($line = fgets($file))) {
            $call = json_decode($line, true);
            if (\is_array($call)) {
                $this->add($call, $tallies);
            }
        }
        $this->entities->flush();
        ftruncate($file, 0);
        fclose($file);
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
