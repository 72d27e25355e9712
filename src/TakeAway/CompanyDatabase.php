<?php

declare(strict_types=1);

namespace App\TakeAway;

/** A stand-in for the database of a company, in SQLite, that ships with the app: what a server does can be tried without one. */
interface CompanyDatabase
{
    /** @return list<string> its tables */
    public function tables(): array;

    public function open(): \PDO;
}
