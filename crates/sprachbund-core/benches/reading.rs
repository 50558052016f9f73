//! Reading a generated project of 1,000 entities in 200 files, beside the bare syntax-tree parse of
//! the same bytes.

mod project;

use criterion::{BatchSize, Criterion, criterion_group, criterion_main};
use project::{bare, dialects, files, idle_files, on, schema};

fn reading(criterion: &mut Criterion) {
    for dialect in dialects() {
        let project = files(dialect, 1_000);
        let idle = idle_files(dialect, 200);
        let mut group = criterion.benchmark_group(dialect.id);
        group.sample_size(20);
        for threads in [1, 2] {
            group.bench_function(format!("bare parse, {threads} cores"), |bencher| {
                bencher.iter_with_large_drop(|| on(threads, || bare(dialect, &project)))
            });
            group.bench_function(format!("bytes to schema, {threads} cores"), |bencher| {
                bencher.iter_batched(
                    || project.clone(),
                    |project| on(threads, || schema(dialect, project)),
                    BatchSize::LargeInput,
                )
            });
        }
        group.bench_function("files without declarations", |bencher| {
            bencher.iter_batched(
                || idle.clone(),
                |idle| on(1, || schema(dialect, idle)),
                BatchSize::LargeInput,
            )
        });
        group.finish();
    }
}

criterion_group!(benches, reading);
criterion_main!(benches);
