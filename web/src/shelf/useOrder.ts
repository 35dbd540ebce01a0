import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type DragEvent } from 'react';
import { api, type ProjectDetail } from '../api/client';

/** A list with one of its entries at another place. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const next = list.toSpliced(from, 1);
  next.splice(to, 0, list[from] as T);
  return next;
}

/** The order of a project's screens: dragged, or moved by places. What is moved stands there at once. */
export function useOrder(project: ProjectDetail) {
  const client = useQueryClient();
  const key = ['project', project.id];
  const [dragged, setDragged] = useState<number>();
  const save = useMutation({
    mutationFn: (screens: ProjectDetail['screens']) =>
      api.order(
        project.id,
        screens.map((s) => s.id),
      ),
    onMutate: (screens) => {
      client.setQueryData<ProjectDetail>(key, { ...project, screens });
    },
    // What the server has, whether it took the order or not.
    onSettled: () => client.invalidateQueries({ queryKey: key }),
  });
  const move = (from: number, to: number) => {
    if (from !== to) save.mutate(moved(project.screens, from, to));
  };
  return {
    error: save.isError ? save.error.message : undefined,
    dragged,
    /** What a screen's menu moves it by. */
    by: (at: number) => ({
      ...(at > 0 && {
        earlier: () => {
          move(at, at - 1);
        },
      }),
      ...(at < project.screens.length - 1 && {
        later: () => {
          move(at, at + 1);
        },
      }),
    }),
    /** What makes an entry of the list draggable. */
    handlers: (at: number) => ({
      draggable: true,
      onDragStart: (event: DragEvent) => {
        event.dataTransfer.effectAllowed = 'move';
        setDragged(at);
      },
      onDragOver: (event: DragEvent) => {
        if (dragged !== undefined) event.preventDefault();
      },
      onDrop: (event: DragEvent) => {
        if (dragged === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        move(dragged, at);
        setDragged(undefined);
      },
      onDragEnd: () => {
        setDragged(undefined);
      },
    }),
  };
}
