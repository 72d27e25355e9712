<?php

declare(strict_types=1);

namespace App\Demo;

use App\TakeAway\CompanyDatabase;

/** Made on first use from the example of the same name; one for the installation. */
final readonly class SimulatedCompany implements CompanyDatabase
{
    public function __construct(private Examples $examples, private string $dataDirectory)
    {
    }

    public function tables(): array
    {
        $answer = $this->open()->query("SELECT name FROM sqlite_master WHERE type = 'table' ORDER BY name");

        $names = false === $answer ? [] : $answer->fetchAll(\PDO::FETCH_COLUMN);

        return array_values(array_filter($names, is_string(...)));
    }

    public function open(): \PDO
    {
        $path = $this->dataDirectory.'/company.sqlite';
        if (!is_file($path)) {
            // Two that begin at once make the same file; the later one takes its place whole.
            $own = $path.'.'.bin2hex(random_bytes(4));
            file_put_contents($own, $this->examples->company());
            is_file($path) ? unlink($own) : rename($own, $path);
        }

        return new \PDO('sqlite:'.$path, options: [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_TIMEOUT => 30]);
    }
}
