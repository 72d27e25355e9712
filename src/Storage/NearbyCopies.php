<?php

declare(strict_types=1);

namespace App\Storage;

use Psr\Cache\CacheItemInterface;
use Symfony\Component\Cache\Adapter\AdapterInterface;
use Symfony\Component\Cache\CacheItem;
use Symfony\Component\Cache\PruneableInterface;
use Symfony\Contracts\Cache\CacheInterface;
use Symfony\Contracts\Cache\CacheTrait;
use Symfony\Contracts\Service\ResetInterface;

/**
 * What lies in a shared store, with copies on this machine's disk of what was read lately, so that a page asked again and again does not
 * fetch it each time. Only the store is written to; a copy lives for a minute, so that what is cleared there is soon gone everywhere.
 */
final readonly class NearbyCopies implements AdapterInterface, CacheInterface, PruneableInterface, ResetInterface
{
    use CacheTrait;

    private const SECONDS = 60;

    public function __construct(private AdapterInterface $near, private AdapterInterface $store)
    {
    }

    public function getItem(mixed $key): CacheItem
    {
        $copy = $this->near->getItem($key);
        if ($copy->isHit()) {
            return $copy;
        }
        $item = $this->store->getItem($key);
        if ($item->isHit()) {
            $this->near->save($copy->set($item->get())->expiresAfter(self::SECONDS));
        }

        return $item;
    }

    /** @return iterable<string, CacheItem> */
    public function getItems(array $keys = []): iterable
    {
        foreach ($keys as $key) {
            yield $key => $this->getItem($key);
        }
    }

    public function hasItem(string $key): bool
    {
        return $this->near->hasItem($key) || $this->store->hasItem($key);
    }

    public function clear(string $prefix = ''): bool
    {
        return $this->near->clear($prefix) && $this->store->clear($prefix);
    }

    public function deleteItem(string $key): bool
    {
        return $this->deleteItems([$key]);
    }

    public function deleteItems(array $keys): bool
    {
        return $this->near->deleteItems($keys) && $this->store->deleteItems($keys);
    }

    public function save(CacheItemInterface $item): bool
    {
        return $this->near->deleteItem($item->getKey()) && $this->store->save($item);
    }

    public function saveDeferred(CacheItemInterface $item): bool
    {
        return $this->save($item);
    }

    public function commit(): bool
    {
        return $this->store->commit();
    }

    public function prune(): bool
    {
        $pruned = true;
        foreach ([$this->near, $this->store] as $pool) {
            $pruned = (!$pool instanceof PruneableInterface || $pool->prune()) && $pruned;
        }

        return $pruned;
    }

    public function reset(): void
    {
        foreach ([$this->near, $this->store] as $pool) {
            if ($pool instanceof ResetInterface) {
                $pool->reset();
            }
        }
    }
}
