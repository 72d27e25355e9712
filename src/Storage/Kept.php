<?php

declare(strict_types=1);

namespace App\Storage;

use Doctrine\DBAL\Connection;
use Symfony\Component\Cache\Adapter\AdapterInterface;
use Symfony\Component\Cache\Adapter\DoctrineDbalAdapter;

/**
 * Where results lie that can be worked out again. A worker makes them and a page shows them: with a store that several machines share they
 * lie in it, since the page may be answered by another machine than the one that worked; with a store on this disk they lie beside it.
 */
final readonly class Kept
{
    private const NAMESPACE = 'kept';

    public static function at(AdapterInterface $disk, Store $store, Connection $connection): AdapterInterface
    {
        return $store->isShared() ? new NearbyCopies($disk, new DoctrineDbalAdapter($connection, self::NAMESPACE)) : $disk;
    }
}
